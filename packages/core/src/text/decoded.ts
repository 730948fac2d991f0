/** An address without its escapes; one whose escapes are not sound as it stands. */
export function decoded(address: string): string {
  try {
    return decodeURIComponent(address);
  } catch {
    return address;
  }
}
