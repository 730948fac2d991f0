import { noRewriting } from '@sprig/core/gather';
import { setOf } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { type ReactNode, useState } from 'react';
import { Allowed, Needs, Only, Where } from '../kit/allowed.tsx';
import { CheckSet } from '../kit/CheckSet.tsx';
import { ChoiceChip, MoneyChip, PercentChip, TextChip } from '../kit/chips.tsx';
import { Dialog } from '../kit/Dialog.tsx';
import { DialogFoot } from '../kit/DialogFoot.tsx';
import { Empty } from '../kit/Empty.tsx';
import { Figured, MoneyFigured } from '../kit/Figured.tsx';
import { FilterField } from '../kit/FilterField.tsx';
import { InlineEdit } from '../kit/InlineEdit.tsx';
import { LinesChip } from '../kit/LinesChip.tsx';
import { Menu } from '../kit/Menu.tsx';
import { Part } from '../kit/Part.tsx';
import { PickButtons } from '../kit/PickButtons.tsx';
import { Progress } from '../kit/Progress.tsx';
import { AskedMarks, ReachBars } from '../kit/ReachBars.tsx';
import { RewriteSentence } from '../kit/RewriteSentence.tsx';
import { Tie } from '../kit/Tie.tsx';
import { Table } from '../kit/table/Table.tsx';
import { ViewButtons } from '../kit/ViewButtons.tsx';
import { YearBars } from '../kit/YearBars.tsx';
import { Yield } from '../kit/Yield.tsx';
import { SampleTable } from './SampleTable.tsx';

/** A part of the kit in one of its states. */
export type Shown = { state: string; element: ReactNode };
export type GalleryPart = {
  name: string;
  what: string;
  /** The components that it shows. */
  uses: readonly unknown[];
  shown: readonly Shown[];
};

const kept = async () => null;
const refused = async () => 'Another is called that. Choose another name.';
const readNumber = (typed: string) =>
  /^\d+$/.test(typed) ? { value: Number(typed) } : { words: `“${typed}” is no number.` };
const nothing = () => {};

function Failing(): ReactNode {
  throw new Error('made to fail');
}

function Opened() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
        Open it
      </button>
      {isOpen && (
        <Dialog title="A panel" onClose={() => setOpen(false)}>
          <p>Esc, the cross and a press beside it close it.</p>
        </Dialog>
      )}
    </>
  );
}

function Filtered() {
  const [filter, setFilter] = useState('');
  return (
    <FilterField label="Filter teas" placeholder="Filter: green -bag" value={filter} onChange={setFilter} />
  );
}

function Rewriting() {
  const [rewriting, setRewriting] = useState({ ...noRewriting, find: 'cheap' });
  return <RewriteSentence rewriting={rewriting} onChange={setRewriting} />;
}

const Guarded = ({ may }: { may: boolean }) => (
  <Allowed may={() => may}>
    <Only access="build" className="flex gap-3">
      <Needs access="write">
        <InlineEdit label="a tea" shown="green tea" text="green tea" onKeep={async () => null} tabStop />
      </Needs>
      <button type="button" className="btn btn-sm">
        Brew it
      </button>
      <Where access="people">
        <button type="button" className="btn btn-sm">
          Ask for more cups
        </button>
      </Where>
    </Only>
  </Allowed>
);

function Ticked({ disabled = false }: { disabled?: boolean }) {
  const [chosen, setChosen] = useState<('black' | 'green' | 'white')[]>(['green']);
  return (
    <fieldset className="flex gap-3">
      <legend className="sr-only">Teas</legend>
      <CheckSet
        names={[
          ['black', 'black'],
          ['green', 'green'],
          ['white', 'white'],
        ]}
        chosen={chosen}
        disabled={disabled}
        onChange={setChosen}
      />
    </fieldset>
  );
}

function Picked({ counts }: { counts?: Record<'open' | 'done', number> }) {
  const [current, setCurrent] = useState<'open' | 'done'>('open');
  const picks = [
    ['open', 'Open'],
    ['done', 'Done'],
  ] as const;
  return <PickButtons label="Which" picks={picks} current={current} counts={counts} onPick={setCurrent} />;
}

function Viewed() {
  const [view, setView] = useState<'' | 'list'>('');
  return (
    <div className="flex gap-1">
      <ViewButtons
        views={[
          ['', 'Picture', 'i'],
          ['list', 'List', 'l'],
        ]}
        current={view}
        figures={{ list: '12' }}
        onView={setView}
      />
    </div>
  );
}

/** Every part that screens are made of, each in its states. */
export const parts: readonly GalleryPart[] = [
  {
    name: 'Table',
    what: 'Rows of any number: selected, marked, pasted into, filled down, copied; its columns sorted and widened.',
    uses: [Table],
    shown: [
      { state: 'with rows', element: <SampleTable rows={1_000} /> },
      { state: 'empty', element: <SampleTable rows={0} /> },
    ],
  },
  {
    name: 'Inline edit',
    what: 'A value that becomes a field. What is refused opens it again, as typed.',
    uses: [InlineEdit],
    shown: [
      {
        state: 'closed',
        element: <InlineEdit label="name" shown="green tea" text="green tea" onKeep={kept} tabStop />,
      },
      {
        state: 'refuses',
        element: (
          <InlineEdit label="taken name" shown="black tea" text="black tea" onKeep={refused} tabStop />
        ),
      },
    ],
  },
  {
    name: 'Chips',
    what: 'Values in a sentence: text, money, a percentage, one of a few, lines.',
    uses: [TextChip, MoneyChip, PercentChip, ChoiceChip, LinesChip],
    shown: [
      { state: 'text', element: <TextChip label="Most" value="20" read={readNumber} onKeep={kept} /> },
      {
        state: 'money',
        element: <MoneyChip label="Base" value={asMicros(450_000)} currency="EUR" onKeep={kept} />,
      },
      { state: 'percent', element: <PercentChip label="Step" value={12_500} onKeep={kept} /> },
      {
        state: 'choice',
        element: (
          <ChoiceChip
            label="Order"
            value="a"
            choices={[
              { value: 'a', words: 'most searched first' },
              { value: 'b', words: 'by name' },
            ]}
            onChoose={nothing}
          />
        ),
      },
      {
        state: 'lines',
        element: (
          <LinesChip
            label="Places"
            shown="two places"
            text={'Upper Dell\nLower Dell'}
            placeholder="one to a line"
            help="One to a line."
            read={(typed) => ({ value: typed })}
            onKeep={kept}
          />
        ),
      },
    ],
  },
  {
    name: 'Menu',
    what: 'A button with a few things to do; arrows move, Esc closes.',
    uses: [Menu],
    shown: [
      {
        state: 'closed',
        element: (
          <Menu
            label="More"
            className="btn btn-sm"
            items={[
              { words: 'Copy it', run: nothing },
              { words: 'Share it', hint: 'with all plans', run: nothing },
              { words: 'Not now', disabled: true, run: nothing },
            ]}
          >
            More
          </Menu>
        ),
      },
    ],
  },
  {
    name: 'DialogFoot',
    what: 'The foot of a dialog about many rows: do it, or leave them.',
    uses: [DialogFoot],
    shown: [
      {
        state: 'ready',
        element: <DialogFoot words="Change 12 bids" isOff={false} onDo={() => {}} onLeave={() => {}} />,
      },
      { state: 'nothing to do', element: <DialogFoot words="Change 0 bids" isOff onLeave={() => {}} /> },
    ],
  },
  {
    name: 'Dialog',
    what: 'A panel over the screen.',
    uses: [Dialog],
    shown: [{ state: 'closed', element: <Opened /> }],
  },
  {
    name: 'Figures by their origin',
    what: 'Told plain, estimated lighter, made up dotted.',
    uses: [Figured, MoneyFigured],
    shown: [
      { state: 'told', element: <Figured value={3_200} from="told" /> },
      { state: 'estimated', element: <Figured value={3_217} from="estimated" /> },
      { state: 'made up', element: <Figured value={3_217} from="made-up" /> },
      { state: 'none', element: <Figured value={null} from={null} /> },
      { state: 'money', element: <MoneyFigured value={1_250_000} from="estimated" currency="USD" /> },
    ],
  },
  {
    name: 'Match types',
    what: 'The narrower the match, the fewer bars.',
    uses: [ReachBars, AskedMarks],
    shown: [
      { state: 'broad', element: <ReachBars type="broad" /> },
      { state: 'exact', element: <ReachBars type="exact" /> },
      { state: 'a set', element: <AskedMarks asked={setOf(['phrase', 'exact'])} /> },
      { state: 'any', element: <AskedMarks asked={0} /> },
    ],
  },
  {
    name: 'Tie',
    what: 'A value held by hand, with the rule’s, and the way back to it.',
    uses: [Tie],
    shown: [{ state: 'held', element: <Tie rule="£0.40" onLetGo={nothing} /> }],
  },
  {
    name: 'Yield',
    what: 'The running sum at the foot of a stage.',
    uses: [Yield],
    shown: [
      {
        state: 'with terms',
        element: (
          <Yield
            note="building"
            terms={[
              { id: 'a', figure: '614', words: 'keywords', more: <p>All of them.</p> },
              { id: 'b', figure: '3', words: 'do not fit', tone: 'bad' },
            ]}
          />
        ),
      },
    ],
  },
  {
    name: 'Only those who may',
    what: 'Fields and buttons of those who may change something; others read what stands there.',
    uses: [Allowed, Needs, Only, Where],
    shown: [
      { state: 'one may', element: <Guarded may={true} /> },
      { state: 'one may not', element: <Guarded may={false} /> },
    ],
  },
  {
    name: 'Ticks',
    what: 'Some of a few names.',
    uses: [CheckSet],
    shown: [
      { state: 'some', element: <Ticked /> },
      { state: 'not to be changed', element: <Ticked disabled /> },
    ],
  },
  {
    name: 'Picks',
    what: 'What is shown below, one of a few.',
    uses: [PickButtons],
    shown: [
      { state: 'one pressed', element: <Picked /> },
      { state: 'with how many there are of each', element: <Picked counts={{ open: 12, done: 1_240 }} /> },
    ],
  },
  {
    name: 'Views',
    what: 'The views of a stage side by side.',
    uses: [ViewButtons],
    shown: [{ state: 'two', element: <Viewed /> }],
  },
  {
    name: 'Filter',
    what: 'Reached by /.',
    uses: [FilterField],
    shown: [{ state: 'empty', element: <Filtered /> }],
  },
  {
    name: 'Rewriting',
    what: 'Many texts at once, as a sentence.',
    uses: [RewriteSentence],
    shown: [{ state: 'set', element: <Rewriting /> }],
  },
  {
    name: 'A year',
    what: 'Twelve months as bars.',
    uses: [YearBars],
    shown: [
      {
        state: 'a season',
        element: (
          <YearBars months={[10, 20, 40, 80, 120, 180, 210, 190, 90, 40, 20, 10]} width={120} height={40} />
        ),
      },
    ],
  },
  {
    name: 'Progress',
    what: 'How far a long job is.',
    uses: [Progress],
    shown: [
      { state: 'half', element: <Progress words="512 of 1,024" done={512} total={1_024} onStop={nothing} /> },
      { state: 'unknown', element: <Progress words="Waiting …" done={0} total={0} /> },
    ],
  },
  {
    name: 'Empty',
    what: 'What belongs here, and the first step.',
    uses: [Empty],
    shown: [
      {
        state: 'empty',
        element: (
          <Empty title="Nothing here yet">
            <button type="button" className="btn btn-primary btn-sm">
              Paste a list
            </button>
          </Empty>
        ),
      },
    ],
  },
  {
    name: 'A part that failed',
    what: 'All around it goes on.',
    uses: [Part],
    shown: [
      {
        state: 'failed',
        element: (
          <Part name="The sample">
            <Failing />
          </Part>
        ),
      },
    ],
  },
];
