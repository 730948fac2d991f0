import { Parser } from 'htmlparser2';

export type PagePart = { kind: 'heading' | 'text'; text: string };
export type PageWords = { title: string; parts: PagePart[] };

const KINDS: Record<string, PagePart['kind'] | 'title'> = {
  title: 'title',
  h1: 'heading',
  h2: 'heading',
  h3: 'heading',
  p: 'text',
  li: 'text',
};
const MOST_PARTS = 200;

/** A page's title, headings and paragraphs in their order; no scripts, no styles. */
export function pageWords(html: string): PageWords {
  const words: PageWords = { title: '', parts: [] };
  let open: { tag: string; text: string } | null = null;
  const close = () => {
    if (!open) return;
    const kind = KINDS[open.tag];
    const text = open.text.replace(/\s+/g, ' ').trim();
    open = null;
    if (text === '') return;
    if (kind === 'title') words.title ||= text;
    else if (kind && words.parts.length < MOST_PARTS) words.parts.push({ kind, text });
  };
  let silent = 0;
  const parser = new Parser({
    onopentag(tag) {
      if (tag === 'script' || tag === 'style' || tag === 'nav') silent++;
      if (!(tag in KINDS)) return;
      close();
      open = { tag, text: '' };
    },
    ontext(text) {
      if (open && silent === 0) open.text += text;
    },
    onclosetag(tag) {
      if (tag === 'script' || tag === 'style' || tag === 'nav') silent--;
      if (open?.tag === tag) close();
    },
  });
  parser.write(html);
  parser.end();
  close();
  return words;
}
