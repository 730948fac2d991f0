/** Once a download has begun, its text is needed no more. */
const KEPT_MS = 10_000;

/** Saves a text as a file of the one who looks. */
export function saveText(name: string, text: string, type = 'text/plain'): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), KEPT_MS);
}
