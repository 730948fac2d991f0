import {
  acceptCompletion,
  autocompletion,
  type Completion,
  type CompletionContext,
  closeCompletion,
  completionStatus,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { Compartment, EditorState, Prec } from '@codemirror/state';
import {
  Decoration,
  type DecorationSet,
  EditorView,
  keymap,
  MatchDecorator,
  placeholder as placeholderText,
  ViewPlugin,
  type ViewUpdate,
} from '@codemirror/view';
import { parseLine, type TokenValues, tokenNames } from '@sprig/core/text';
import { useEffect, useRef } from 'react';
import { useMayEdit } from '../../kit/allowed.tsx';

export type LineEditorProps = {
  label: string;
  text: string;
  placeholder: string;
  isWrong: boolean;
  /** What each token gives in the group in view. */
  values: TokenValues;
  siteName: string;
  autoFocus: boolean;
  onType: (text: string) => void;
  onKeep: () => void;
  onRevert: () => void;
};

/** One line in which tokens are typed with `@` and shown as chips. */
export default function LineEditor(props: LineEditorProps) {
  const { label, text, placeholder, isWrong, autoFocus } = props;
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const now = useRef(props);
  now.current = props;
  const hint = useRef(new Compartment());
  const attributes = useRef(new Compartment());
  const mayEdit = useMayEdit();
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is made once, with what it opens with
  useEffect(() => {
    if (!place.current) return;
    const made = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: text,
        extensions: [
          Prec.highest(
            keymap.of([
              { key: 'Enter', run: (own) => keepLine(own, now.current.onKeep) },
              { key: 'Escape', run: (own) => revert(own, now.current.onRevert) },
            ]),
          ),
          history(),
          autocompletion({
            override: [(context) => tokensFor(context, now.current)],
            icons: false,
            interactionDelay: 0,
            tooltipClass: () => 'token-list',
          }),
          keymap.of([...historyKeymap, ...defaultKeymap]),
          EditorState.transactionFilter.of((change) =>
            change.newDoc.lines < 2
              ? change
              : [
                  {
                    changes: {
                      from: 0,
                      to: change.startState.doc.length,
                      insert: change.newDoc.toString().replace(/\s*\n\s*/g, ' '),
                    },
                    selection: { anchor: Math.min(change.newDoc.length, change.newSelection.main.head) },
                  },
                ],
          ),
          EditorView.lineWrapping,
          hint.current.of(placeholderText(placeholder)),
          attributes.current.of(attributesOf(label, isWrong, mayEdit)),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) now.current.onType(update.state.doc.toString());
            if (update.focusChanged && !update.view.hasFocus) now.current.onKeep();
          }),
          chips,
          look,
        ],
      }),
    });
    view.current = made;
    return () => made.destroy();
  }, []);
  useEffect(() => {
    view.current?.dispatch({
      effects: [
        hint.current.reconfigure(placeholderText(placeholder)),
        attributes.current.reconfigure(attributesOf(label, isWrong, mayEdit)),
      ],
    });
  }, [label, isWrong, placeholder, mayEdit]);
  useEffect(() => {
    const own = view.current;
    if (!own || own.state.doc.toString() === text) return;
    own.dispatch({ changes: { from: 0, to: own.state.doc.length, insert: text } });
  }, [text]);
  useEffect(() => {
    const own = view.current;
    if (!autoFocus || !own) return;
    own.focus();
    own.dispatch({ selection: { anchor: own.state.doc.length } });
  }, [autoFocus]);
  return <div ref={place} className="line-editor min-w-0 flex-1" />;
}

const attributesOf = (label: string, isWrong: boolean, mayEdit: boolean) => [
  // A field that is disabled around it does not keep keys from it.
  EditorView.editable.of(mayEdit),
  EditorState.readOnly.of(!mayEdit),
  EditorView.contentAttributes.of({
    'aria-label': label,
    'aria-invalid': String(isWrong),
    'aria-multiline': 'false',
    spellcheck: 'true',
  }),
];

const WHOLE_TOKEN = new RegExp(`@(?:${tokenNames.join('|')})$`, 'i');

/** Enter takes a token where the list is open and the token is not there yet; else it keeps the line. */
function keepLine(view: EditorView, onKeep: () => void): boolean {
  const { head } = view.state.selection.main;
  const isWhole = WHOLE_TOKEN.test(view.state.doc.sliceString(0, head));
  if (completionStatus(view.state) === 'active' && !isWhole) {
    acceptCompletion(view);
    return true;
  }
  closeCompletion(view);
  onKeep();
  return true;
}

function revert(view: EditorView, onRevert: () => void): boolean {
  if (completionStatus(view.state) !== null) return false;
  onRevert();
  view.contentDOM.blur();
  return true;
}

const meanings: Record<string, string> = {
  keyword: 'the group’s keyword',
  group: 'its name',
  theme: 'its theme',
  branch: 'the theme at the top',
  place: 'the place named, or of the campaign',
  stage: 'how close to buying',
  source: 'where it came from',
  offer: 'the offer that holds',
  brand: 'the brand named',
  year: 'this year',
  site: 'the site',
};

function tokensFor(context: CompletionContext, { values, siteName }: LineEditorProps) {
  const typed = context.matchBefore(/@[a-z]*/i);
  if (!typed) return null;
  const options: Completion[] = tokenNames
    .filter((name) => name !== 'source' && name !== 'gap')
    .map((name) => ({
      label: `@${name}`,
      detail: values[name] || 'nothing here',
      info: meanings[name] ?? '',
      boost: values[name] ? 1 : 0,
    }));
  options.push({
    label: '@gap',
    apply: '@gap(what is still to be written)',
    detail: 'still to be written',
    info: 'Holds a place: ads that need this line can’t ship until it is written.',
  });
  const keyword = values.keyword ?? 'Keyword';
  options.push({
    label: '@keyword live',
    apply: `@keyword(live, or ${keyword.charAt(0).toUpperCase()}${keyword.slice(1)})`,
    detail: 'filled in at search time',
    info: 'The engine puts in the keyword that was searched for; behind “or” stands what it falls back on.',
  });
  if (siteName !== '')
    options.push({
      label: '@site in words',
      apply: siteName,
      detail: siteName,
      info: 'The site’s name, cut into words: it is written out, not a token.',
    });
  return { from: typed.from, options, validFor: /^@[a-z ]*$/i };
}

const chip = Decoration.mark({ class: 'token-chip' });
const liveChip = Decoration.mark({ class: 'token-chip token-live' });
const wrongChip = Decoration.mark({ class: 'token-wrong' });
const matcher = new MatchDecorator({
  regexp: /@[a-z][a-z0-9]*(?:\([^)]*\)?)?/gi,
  decoration: ([found]) => {
    const read = parseLine(found);
    if ('problem' in read) return wrongChip;
    const [part] = read.line.parts;
    return part?.kind === 'token' && part.live ? liveChip : chip;
  },
});
const chips = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = matcher.createDeco(view);
    }
    update(update: ViewUpdate) {
      this.decorations = matcher.updateDeco(update, this.decorations);
    }
  },
  { decorations: (own) => own.decorations },
);

const look = EditorView.theme({
  '&': { fontSize: '13px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'inherit', lineHeight: '18px', overflowX: 'hidden' },
  '.cm-content': { caretColor: 'var(--color-base-content)', padding: '4px 0' },
  '.cm-line': { padding: '0' },
  '.cm-cursor': { borderLeftColor: 'var(--color-base-content)' },
  '.cm-placeholder': { color: 'var(--color-faint)' },
});
