import { normalise } from '@sprig/core/text';
import { folded, partsOf } from './vocabulary.ts';

type Page = { title: string; headings: string[]; text: string[] };
export type Site = { name: string; host: string; pages: Readonly<Record<string, Page>> };

/** The client's site, for reading words from: it is served with the application, and no outside address is asked. */
export const clientSite: Site = {
  name: 'Saltmarsh Paddle Co.',
  host: 'saltmarshpaddle.example',
  pages: {
    '/': {
      title: 'Saltmarsh Paddle Co.: kayaks, canoes and paddle boards in Eastmere',
      headings: ['Kayaks, canoes and paddle boards', 'Kayak hire in Wrenport', 'Paddle board lessons'],
      text: [
        'We sell and hire kayaks, canoes and paddle boards, and fit every paddle and buoyancy aid by hand.',
        'Come to Wrenport or Tallowby Bay, try it on the water, then decide.',
      ],
    },
    '/hire': {
      title: 'Kayak, canoe and paddle board hire',
      headings: ['Kayak hire', 'Canoe hire', 'Paddle board hire', 'Two person kayak hire'],
      text: [
        'Kayak hire by the hour, the day or the week in Wrenport, Marrowquay and Heronsea.',
        'Every hire comes with a paddle, a buoyancy aid and a dry bag.',
      ],
    },
    '/kayaks/inflatable': {
      title: 'Inflatable kayaks for sale',
      headings: ['Inflatable kayaks', 'Two person inflatable kayak', 'Lightweight inflatable kayak'],
      text: [
        'Inflatable kayaks that fold into a bag: touring, fishing and beginner kayaks, best price in Eastmere.',
      ],
    },
    '/lessons': {
      title: 'Kayak lessons and guided tours',
      headings: ['Kayak lessons', 'Paddle board lessons', 'Guided tour of the estuary'],
      text: ['Beginner kayak lessons and kids canoe lessons in Ottermere Weir and Pellanby, all year.'],
    },
    '/second-hand': {
      title: 'Second hand kayaks and canoes',
      headings: ['Second hand kayak', 'Second hand canoe'],
      text: ['Second hand sea kayaks and river canoes from our own hire fleet, checked and repaired.'],
    },
  },
};

export const rivalSite: Site = {
  name: 'Fathom & Reed',
  host: 'fathomandreed.example',
  pages: {
    '/': {
      title: 'Fathom & Reed: carbon paddles and touring kayaks',
      headings: ['Touring kayaks', 'Carbon paddle', 'Folding kayak'],
      text: ['Carbon paddles and folding touring kayaks for the sea, and a roof rack for each.'],
    },
    '/paddle-boards': {
      title: 'Paddle boards',
      headings: ['Fishing paddle board', 'Kids paddle board', 'Paddle board rental'],
      text: ['Lightweight paddle boards for fishing and for kids, with paddle board rental in Heronsea.'],
    },
  },
};

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

/** A page of a stand-in site as HTML; null where the site has none at that path. */
export function pageHtml(site: Site, path: string): string | null {
  const page = site.pages[path.length > 1 ? path.replace(/\/+$/, '') : path];
  if (!page) return null;
  const links = Object.keys(site.pages)
    .map((to) => `<a href="${to === '/' ? '.' : `.${to}`}">${to}</a>`)
    .join(' ');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escaped(page.title)}</title>
<p>A stand-in site: made up, and shipped with the application.</p>
<h1>${escaped(page.title)}</h1>
${page.headings.map((heading) => `<h2>${escaped(heading)}</h2>`).join('\n')}
${page.text.map((text) => `<p>${escaped(text)}</p>`).join('\n')}
<nav>${links}</nav></html>`;
}

const HEADING_WEIGHT = 3;

/** The searches that a page speaks of: runs of words that the market knows and that name goods, headings first. */
export function seedsOf(html: string): string[] {
  const found = new Map<string, number>();
  for (const [, tag = '', inner = ''] of html.matchAll(/<(h1|h2|p|title)>([\s\S]*?)<\/\1>/g))
    for (const clause of normalise(inner.replace(/<[^>]*>/g, ' ').replaceAll('&amp;', '&')).split(
      /[.,:;]| and | or /,
    ))
      for (const run of runsOf(clause.trim()))
        found.set(run, (found.get(run) ?? 0) + (tag === 'p' ? 1 : HEADING_WEIGHT));
  return [...found].sort(([a, one], [b, other]) => other - one || (a < b ? -1 : 1)).map(([run]) => run);
}

function runsOf(clause: string): string[] {
  const runs: string[] = [];
  let run: string[] = [];
  let hasGood = false;
  const close = () => {
    if (hasGood) runs.push(run.join(' '));
    run = [];
    hasGood = false;
  };
  for (const { text, role } of clause === '' ? [] : partsOf(clause)) {
    if (role === 'unknown' || role === 'function') close();
    else {
      run.push(folded(text));
      hasGood ||= role === 'good';
    }
  }
  close();
  return runs;
}
