/** What a link of a mail carries behind its #, where no server and no log sees it; it does not stay in the address. */
export function tokenHere(): string {
  const token = window.location.hash.slice(1);
  if (token !== '') window.history.replaceState(window.history.state, '', window.location.pathname);
  return token;
}
