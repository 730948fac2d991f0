/** Where to go once one is in: a path of this application, whatever the address says. */
export function nextPath(wanted: string | null): string {
  if (!wanted) return '/';
  const here = 'http://here.invalid';
  try {
    const url = new URL(wanted, here);
    // `//evil.example` and `/\evil.example` are paths to the eye, and other hosts to a browser.
    const isOurs = url.origin === here && wanted.startsWith('/') && !/^\/[/\\]/.test(wanted);
    return isOurs && !url.pathname.startsWith('/door') ? `${url.pathname}${url.search}${url.hash}` : '/';
  } catch {
    return '/';
  }
}
