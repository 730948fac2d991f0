import {
  listOutsets,
  type OutsetLine,
  type OutsetPart,
  type OutsetView,
  takeOutset,
  tryOutset,
} from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { useSettled } from '../../kit/use-settled.ts';
import { OutsetParts } from './OutsetParts.tsx';
import { partWords, wordsOfField, wordsOfLoss, wordsOfThings, wordsOfValue } from './outset-words.ts';

type Props = { plan: number; name: string; currency: string; onClose: () => void };

/** Parts of an outset taken into a plan that is there: what each does is shown before. */
export function TakeOutset(props: Props) {
  const { data, error } = useQuery(question(listOutsets));
  return (
    <Dialog title={`Take an outset into ${props.name}`} onClose={props.onClose} wide>
      {error && (
        <p role="alert" className="text-error">
          {wordsOf(error)}
        </p>
      )}
      {data?.outsets.length === 0 && (
        <Empty title="No outsets yet">
          An outset is what a plan goes by, kept under a name. Keep one of a plan that you would begin with
          again.
        </Empty>
      )}
      {data && data.outsets.length > 0 && <Taking {...props} outsets={data.outsets} />}
    </Dialog>
  );
}

function Taking({
  plan,
  currency,
  outsets,
  onClose,
}: Pick<Props, 'plan' | 'currency' | 'onClose'> & { outsets: readonly OutsetView[] }) {
  const [chosen, setChosen] = useState(outsets.find(({ isDefault }) => isDefault) ?? outsets[0]);
  const [parts, setParts] = useState<OutsetPart[]>(chosen?.parts ?? []);
  const asked = useSettled(parts);
  const outset = chosen?.id ?? 0;
  const { data: would, error } = useQuery({
    ...question(tryOutset, { params: { plan, outset }, body: { parts: asked } }),
    enabled: asked.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { write, isBusy, refusal } = useWrite(takeOutset, {
    refusals: 'here',
    said: () => `Took in the outset ${chosen?.name}.`,
  });
  const shown = parts.length > 0 ? would : undefined;
  const take = async () => {
    const done = await write({ params: { plan, outset }, body: { parts: asked, seen: would?.seen ?? '' } });
    if (done) onClose();
  };
  const isOff = isBusy || !shown || shown.lines.length === 0 || error !== null || asked !== parts;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isOff) void take();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="text-faint">Outset</span>
        <select
          className="select select-sm w-72"
          value={outset}
          onChange={({ target }) => {
            const next = outsets.find(({ id }) => String(id) === target.value);
            setChosen(next);
            setParts(next?.parts ?? []);
          }}
        >
          {outsets.map(({ id, name, of }) => (
            <option key={id} value={id}>
              {name === of ? name : `${name}, of ${of}`}
            </option>
          ))}
        </select>
      </label>
      {chosen && <OutsetParts has={chosen.parts} chosen={parts} onChoose={setParts} />}
      {(error || refusal) && (
        <p role="alert" className="text-[12.5px] text-error">
          {refusal ?? (error && wordsOf(error))}
        </p>
      )}
      {parts.length === 0 && <p className="text-faint">Choose a part at least.</p>}
      {shown && !error && (
        <>
          <p role="status" className="text-[13px]">
            {shown.lines.length === 0
              ? 'Nothing would change: this plan goes by it already.'
              : `${counted(shown.lines.length, 'thing')} would change. What this plan has beside stays.`}
          </p>
          {shown.losses.length > 0 && (
            <ul className="flex flex-col gap-0.5 text-[12.5px] text-warning">
              {shown.losses.map((loss) => (
                <li key={`${loss.part} ${loss.why} ${loss.names.join()}`}>
                  {wordsOfLoss(loss, chosen?.currency ?? '')}
                </li>
              ))}
            </ul>
          )}
          {shown.lines.length > 0 && <Lines lines={shown.lines} currency={currency} />}
        </>
      )}
      <DialogFoot words="Take it in" isOff={isOff} onLeave={onClose} leave="Leave it" className="mt-0" />
    </form>
  );
}

function Lines({ lines, currency }: { lines: readonly OutsetLine[]; currency: string }) {
  return (
    <table className="w-full table-fixed text-[13px]">
      <thead className="text-[12px] text-faint">
        <tr>
          <th className="w-[34%] text-left font-normal">What</th>
          <th className="w-[33%] text-left font-normal">Before</th>
          <th className="text-left font-normal">After</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, at) => {
          const { part, kind, names } = line;
          const [before, after] =
            kind === 'set'
              ? [line.before, line.after].map((value) => wordsOfValue(line.at, value, currency))
              : [
                  kind === 'added' ? 'not there' : 'other than there',
                  `${names.join(', ')}${line.count > names.length ? ` and ${count(line.count - names.length)} more` : ''}`,
                ];
          return (
            <tr key={`${part} ${line.at} ${kind}`} className="h-6 align-top">
              <td className="truncate">
                {kind === 'set'
                  ? (wordsOfField(line.at) ?? line.at)
                  : `${wordsOfThings(line)} ${kind === 'added' ? 'added' : 'brought in line'}`}
                {lines[at - 1]?.part !== part && (
                  <span className="ml-1.5 text-[11.5px] text-faint">{partWords[part].words}</span>
                )}
              </td>
              <td className="truncate text-faint" title={before}>
                {before}
              </td>
              <td className="truncate font-semibold" title={after}>
                {after}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
