import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { Compartment, EditorState, Prec } from '@codemirror/state';
import { Decoration, EditorView, keymap, lineNumbers, placeholder } from '@codemirror/view';
import { type Ref, useEffect, useImperativeHandle, useRef } from 'react';
import { useMayEdit } from './allowed.tsx';

export type LinesEditorHandle = { goTo: (line: number) => void };

export type LinesEditorProps = {
  label: string;
  /** What it opens with; afterwards it keeps its text itself. */
  text: string;
  hint: string;
  /** Lines to be marked as wrong, from 1. */
  wrong: readonly number[];
  onType: (text: string) => void;
  onKeep?: () => void;
  /** As tall as what it stands in. */
  isTall?: boolean;
  handle: Ref<LinesEditorHandle>;
};

/**
 * A field for lists of any length: it draws only the lines in view. A plain text area takes a third of a second for
 * every key in 50,000 lines.
 */
export default function LinesEditor({
  label,
  text,
  hint,
  wrong,
  onType,
  onKeep,
  isTall,
  handle,
}: LinesEditorProps) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const marks = useRef(new Compartment());
  const editable = useRef(new Compartment());
  const mayEdit = useMayEdit();
  const calls = useRef({ onType, onKeep });
  calls.current = { onType, onKeep };
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is made once, with what it opens with
  useEffect(() => {
    if (!place.current) return;
    const made = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: text,
        selection: { anchor: text.length },
        extensions: [
          Prec.highest(
            keymap.of([
              {
                key: 'Mod-Enter',
                run: () => {
                  calls.current.onKeep?.();
                  return calls.current.onKeep !== undefined;
                },
              },
            ]),
          ),
          history(),
          keymap.of([...historyKeymap, ...defaultKeymap]),
          lineNumbers(),
          placeholder(hint),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false' }),
          EditorView.updateListener.of(({ docChanged, state }) => {
            if (docChanged) calls.current.onType(state.doc.toString());
          }),
          marks.current.of([]),
          editable.current.of(editing(mayEdit)),
          look,
        ],
      }),
    });
    view.current = made;
    // It is loaded when it is first asked for: who types somewhere else by then goes on there.
    if (!isTypedInto(document.activeElement)) made.focus();
    return () => made.destroy();
  }, []);
  useEffect(() => {
    view.current?.dispatch({ effects: editable.current.reconfigure(editing(mayEdit)) });
  }, [mayEdit]);
  const wrongKey = wrong.join();
  useEffect(() => {
    const now = view.current;
    if (!now) return;
    const lines = wrongKey === '' ? [] : wrongKey.split(',').map(Number);
    const there = [...new Set(lines)].filter((line) => line <= now.state.doc.lines).sort((a, b) => a - b);
    const set = Decoration.set(there.map((line) => wrongLine.range(now.state.doc.line(line).from)));
    now.dispatch({ effects: marks.current.reconfigure(EditorView.decorations.of(set)) });
  }, [wrongKey]);
  useImperativeHandle(handle, () => ({
    goTo: (line) => {
      const now = view.current;
      if (!now || line > now.state.doc.lines) return;
      const { from, to } = now.state.doc.line(line);
      now.dispatch({ selection: { anchor: from, head: to }, scrollIntoView: true });
      now.focus();
    },
  }));
  return <div ref={place} className={`lines-editor ${isTall ? 'lines-editor-tall' : ''}`} />;
}

/** Whether its text may be changed: a field that is disabled around it does not keep keys from it. */
const editing = (mayEdit: boolean) => [EditorView.editable.of(mayEdit), EditorState.readOnly.of(!mayEdit)];

const isTypedInto = (element: Element | null): boolean =>
  element instanceof HTMLInputElement ||
  element instanceof HTMLTextAreaElement ||
  (element instanceof HTMLElement && element.isContentEditable);

const wrongLine = Decoration.line({ class: 'lines-wrong' });

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '13px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'inherit', lineHeight: '20px' },
  '.cm-content': { caretColor: 'var(--color-base-content)', padding: '6px 0' },
  '.cm-gutters': {
    background: 'transparent',
    border: 'none',
    color: 'var(--color-faint)',
    fontSize: '11px',
  },
  '.cm-cursor': { borderLeftColor: 'var(--color-base-content)' },
  '&.cm-focused .cm-selectionBackground, ::selection': {
    background: 'color-mix(in oklch, var(--color-primary) 25%, transparent)',
  },
  '.cm-placeholder': { color: 'var(--color-faint)', whiteSpace: 'pre-line' },
});
