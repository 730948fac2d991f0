import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { bytes } from '../../kit/format.ts';
import { isLong, LongList } from './LongList.tsx';
import type { GivenList as List, Taking } from './use-given-list.ts';

/** What is to be taken in, as it was pasted, or the file that it is from. */
export function GivenList({ taking, list }: { taking: Taking; list: List }) {
  const { text, setText, sheets, sheet, chooseSheet, weighs } = list;
  const isLongPaste = taking.kind === 'paste' && isLong(text);
  return (
    <div className="flex min-h-0 flex-col border-hair border-r">
      {isLongPaste && <LongList text={text} onClear={() => setText('')} />}
      {taking.kind === 'paste' && !isLongPaste && (
        <textarea
          // biome-ignore lint/a11y/noAutofocus: the panel was opened to paste into it
          autoFocus
          aria-label="The list"
          className="plain-field min-h-0 flex-1 resize-none whitespace-pre p-4 leading-[22px] [tab-size:20]"
          spellCheck={false}
          placeholder={'red mug\n"large red mug"\n[glass teapot]\n+small +teapot\n-jobs'}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onPaste={(event) => {
            const pasted = event.clipboardData.getData('text/plain');
            if (!isLong(pasted)) return;
            event.preventDefault();
            setText(text.trim() === '' ? pasted : `${text}\n${pasted}`);
          }}
        />
      )}
      {taking.kind === 'file' && (
        <div className="p-4">
          <p className="font-semibold">{taking.file.name}</p>
          <p className="text-faint">{bytes(weighs)}</p>
          {sheets.length > 1 && (
            <p className="mt-3">
              Sheet{' '}
              <ChoiceChip
                label="Sheet of the workbook"
                value={String(sheet)}
                choices={sheets.map((words, at) => ({ value: String(at), words }))}
                onChoose={(value) => void chooseSheet(Number(value))}
              />
            </p>
          )}
        </div>
      )}
      <div className="border-hair border-t p-3">
        <Help>
          <b>mug</b> asks for no match type, <b>"mug"</b> for phrase, <b>[mug]</b> for exact, <b>+red +mug</b>{' '}
          for modified broad; <b>-mug</b> is a negative keyword. Columns of figures may stand beside.
        </Help>
      </div>
    </div>
  );
}
