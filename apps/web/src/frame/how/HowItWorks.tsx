import { matchRules, matchTypes } from '@sprig/core/match';
import { ArrowLeft } from 'lucide-react';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { everywhereTold } from '../commands.ts';
import { KeyList } from '../KeyList.tsx';
import type { StageEntry } from '../leaf.ts';
import { useTheme } from '../use-theme.ts';
import { ourWords, stagesInWords, workedOut } from './how-words.ts';

/** How the product works: the stages, our words, match types, how things are worked out, and all keys. */
export function HowItWorks({ stages }: { stages: readonly StageEntry[] }) {
  useTheme();
  const sections = sectionsOf(stages);
  const navigate = useNavigate();
  return (
    <div className="h-full overflow-auto">
      <header className="sticky top-0 z-10 flex h-[62px] items-center gap-3 border-hair border-b bg-base-100 px-6">
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => void navigate(-1)}>
          <ArrowLeft size={15} aria-hidden /> Back
        </button>
        <h1 className="font-semibold text-[15px]">How it works</h1>
        <nav aria-label="On this page" className="ml-auto flex gap-4 text-[13px]">
          {sections.map(([id, title]) => (
            <a key={id} href={`#${id}`} className="link link-hover">
              {title}
            </a>
          ))}
        </nav>
      </header>
      <main className="mx-auto max-w-[1080px] px-6 pb-16">
        <p className="pt-5 text-[15px]">
          Rules make the plan; what you set by hand sits on top; nothing is lost when the rules run again. The
          stages stand in the order of the work, and any of them is open at any time.
        </p>
        {sections.map(([id, title, content]) => (
          <section key={id} id={id} aria-label={title} className="scroll-mt-16 pt-7">
            <h2 className="mb-2 border-hair border-b pb-1.5 font-semibold text-[15px]">{title}</h2>
            {content}
          </section>
        ))}
      </main>
    </div>
  );
}

const Told = ({ rows }: { rows: readonly (readonly [string, string])[] }) => (
  <dl className="grid grid-cols-[15rem_1fr] gap-x-6 gap-y-2">
    {rows.map(([name, words]) => (
      <div key={name} className="contents">
        <dt className="font-semibold">{name}</dt>
        <dd>{words}</dd>
      </div>
    ))}
  </dl>
);

const Stages = () => (
  <ol className="flex flex-col gap-2">
    {stagesInWords.map(([path, name, question, done], at) => (
      <li key={path} className="grid grid-cols-[15rem_1fr] gap-x-6">
        <span>
          <span className="key">g {at + 1}</span> <b>{name}</b>
        </span>
        <span>
          {question} <span className="text-faint">{done}</span>
        </span>
      </li>
    ))}
  </ol>
);

const MatchTypes = () => (
  <dl className="grid grid-cols-[15rem_1fr] gap-x-6 gap-y-2">
    {matchTypes.map((type) => (
      <div key={type} className="contents">
        <dt className="flex items-center gap-2 font-semibold">
          <ReachBars type={type} /> {matchWords[type]}
        </dt>
        <dd>{matchRules[type].why}</dd>
      </div>
    ))}
  </dl>
);

const AllKeys = ({ stages }: { stages: readonly StageEntry[] }) => (
  <div className="columns-2 gap-10 [&>section]:mb-6 [&>section]:break-inside-avoid">
    <KeyList title="Everywhere" keys={everywhereTold} />
    {stages.map(({ path, name, keys }) => keys.length > 0 && <KeyList key={path} title={name} keys={keys} />)}
  </div>
);

const sectionsOf = (
  stages: readonly StageEntry[],
): readonly [id: string, title: string, content: ReactNode][] => [
  ['stages', 'The stages', <Stages key="stages" />],
  ['words', 'Our words', <Told key="words" rows={ourWords} />],
  ['match-types', 'Match types', <MatchTypes key="match-types" />],
  ['worked-out', 'How things are worked out', <Told key="worked-out" rows={workedOut} />],
  ['keys', 'Keys', <AllKeys key="keys" stages={stages} />],
];
