import type { SitePage, SiteText } from '@sprig/core/gather';
import { Parser } from 'htmlparser2';

/** What a page of a site says where it counts, and where it leads. */
export type ReadPage = SitePage & { title: string; links: string[] };

const WHERE: Record<string, SiteText['where']> = {
  title: 'title',
  h1: 'heading',
  h2: 'heading',
  h3: 'heading',
  a: 'link',
  nav: 'navigation',
};
const MOST_TEXTS = 600;
const MOST_LINKS = 400;

/** Reads titles, headings, links, navigation, breadcrumbs, picture texts, and names of products in structured data. */
export function readSitePage(html: string): ReadPage {
  const page: ReadPage = { title: '', links: [], texts: [] };
  const open: { tag: string; where: SiteText['where']; text: string }[] = [];
  let silent = 0;
  let navigation = 0;
  let data: string | null = null;
  const say = (text: string, where: SiteText['where']) => {
    const tidy = text.replace(/\s+/g, ' ').trim();
    if (tidy !== '' && tidy.length <= 300 && page.texts.length < MOST_TEXTS)
      page.texts.push({ text: tidy, where });
    return tidy;
  };
  const parser = new Parser(
    {
      onopentag(tag, attributes) {
        const isCrumb = /breadcrumb/i.test(`${attributes.class ?? ''} ${attributes['aria-label'] ?? ''}`);
        if (tag === 'nav' || isCrumb) navigation++;
        if (tag === 'script' && /ld\+json/i.test(attributes.type ?? '')) data = '';
        else if (tag === 'script' || tag === 'style' || tag === 'template') silent++;
        if (tag === 'img' && attributes.alt) say(attributes.alt, 'picture');
        if (tag === 'a' && attributes.href && page.links.length < MOST_LINKS)
          page.links.push(attributes.href);
        const where = WHERE[tag];
        if (where && tag !== 'nav')
          open.push({ tag, where: navigation > 0 && tag === 'a' ? 'navigation' : where, text: '' });
      },
      ontext(text) {
        if (data !== null) data += text;
        else if (silent === 0) for (const one of open) one.text += text;
      },
      onclosetag(tag) {
        if (tag === 'nav' && navigation > 0) navigation--;
        if (tag === 'script' && data !== null) {
          for (const name of productNames(data)) say(name, 'product');
          data = null;
        } else if (tag === 'script' || tag === 'style' || tag === 'template')
          silent = Math.max(0, silent - 1);
        const at = open.findLastIndex((one) => one.tag === tag);
        if (at < 0) return;
        const [one] = open.splice(at, 1);
        if (!one) return;
        const text = say(one.text, one.where);
        if (one.where === 'title') page.title ||= text;
      },
    },
    { decodeEntities: true },
  );
  parser.write(html);
  parser.end();
  return page;
}

/** Names of products, breadcrumbs and categories in JSON-LD; none where it is no JSON. */
function productNames(json: string): string[] {
  const names: string[] = [];
  const visit = (value: unknown, depth: number) => {
    if (depth > 8 || names.length > 200 || typeof value !== 'object' || value === null) return;
    if (Array.isArray(value)) {
      for (const one of value) visit(one, depth + 1);
      return;
    }
    const { name, category } = value as Record<string, unknown>;
    const type = String((value as Record<string, unknown>)['@type'] ?? '');
    if (/product|listitem|offercatalog|service|itemlist|collection/i.test(type)) {
      if (typeof name === 'string') names.push(name);
      if (typeof category === 'string') names.push(category);
    }
    for (const inner of Object.values(value)) visit(inner, depth + 1);
  };
  try {
    visit(JSON.parse(json), 0);
  } catch {
    // Structured data that is broken says nothing.
  }
  return names;
}
