import { guardedWords } from '@sprig/contracts';
import type { AdField, AdPattern, VersionName } from '@sprig/core/write';
import type { ComponentProps } from 'react';
import { Only } from '../../kit/allowed.tsx';
import { AdNotes } from './AdNotes.tsx';
import { AdStrip } from './AdStrip.tsx';
import { Beside } from './Beside.tsx';
import { PatternLines } from './PatternLines.tsx';
import { PatternSentence } from './PatternSentence.tsx';
import type { NamedTheme } from './theme-choices.ts';
import type { useAdInView } from './use-ad-in-view.ts';
import type { useAdChecks, useAdWriter, WritingState } from './use-writing.ts';

type StripProps = ComponentProps<typeof AdStrip>;
type LinesProps = ComponentProps<typeof PatternLines>;

type Props = Pick<
  StripProps,
  'writing' | 'place' | 'onPlace' | 'ordered' | 'onNextMisfit' | 'onMisfitsFirst' | 'cures' | 'onCure'
> &
  Pick<LinesProps, 'form' | 'counts' | 'siteName' | 'focused'> & {
    plan: number;
    writing: WritingState;
    body: AdPattern;
    themes: readonly NamedTheme[];
    group: Parameters<typeof useAdInView>[1];
    inView: ReturnType<typeof useAdInView>;
    checks: ReturnType<typeof useAdChecks>;
    made: ReturnType<typeof useAdWriter>;
    version: VersionName;
    onVersion: (version: VersionName) => void;
    onKeywords: (headline: string) => void;
  };

/** The lines of the chosen pattern above, the ads as they read below, and what there is to say of the one in view. */
export function LinesView(props: Props) {
  const { writing, body, form, themes, group, inView, counts, checks, made, siteName, focused } = props;
  const { version, onVersion, place, onPlace, ordered, onNextMisfit, onMisfitsFirst } = props;
  const { cures, onCure, onKeywords } = props;
  const { document, chosen, input, hold, release } = writing;
  const { ad, values, norms } = inView;
  const onHold = (key: string, field: string, text: string) => hold(key, field as AdField, text);
  const onLetGo = (key: string, field: string) => release([{ rowKey: key, field }]);
  return (
    <>
      <div className="flex items-start justify-between gap-3">
        <PatternSentence
          key={chosen}
          id={chosen}
          body={body}
          document={document}
          themes={themes}
          groupInView={group}
          plan={props.plan}
        />
        <Versions split={body.split} shown={version} onVersion={onVersion} />
      </div>
      <Only access="write">
        <PatternLines
          key={`${chosen}:${body.form}`}
          id={chosen}
          body={body}
          form={form}
          document={document}
          counts={counts}
          fields={ad?.fields}
          values={values}
          siteName={siteName}
          focused={focused}
        />
      </Only>
      <div className="flex min-h-0 flex-1">
        <AdStrip
          writing={writing}
          place={place}
          onPlace={onPlace}
          ordered={ordered}
          onNextMisfit={onNextMisfit}
          onMisfitsFirst={onMisfitsFirst}
          version={version}
          cures={cures}
          onCure={onCure}
          onHold={onHold}
          onLetGo={onLetGo}
        />
        <Beside
          plan={props.plan}
          pattern={{ id: chosen, body, form, document }}
          group={group}
          themes={themesOf(group?.theme ?? 0, themes)}
          rivals={input?.facts.rivals ?? noNames}
          address={ad?.address.final.status === 'address' ? ad.address.final.href : ''}
        >
          {group && ad && checks && made && input && (
            <AdNotes
              group={group}
              ad={ad}
              body={body}
              norms={norms}
              values={values}
              checks={checks}
              writer={made.writer}
              words={guardedWords(input.facts)}
              rules={made.rules}
              onHold={onHold}
              onKeywords={onKeywords}
            />
          )}
        </Beside>
      </div>
    </>
  );
}

type VersionsProps = {
  split: AdPattern['split'];
  shown: VersionName;
  onVersion: (version: VersionName) => void;
};

/** Which version of a split test is in view. */
const Versions = ({ split, shown, onVersion }: VersionsProps) =>
  split.by !== 'none' && (
    <span className="flex shrink-0 items-center gap-1 px-4 text-[13px]">
      {(['a', 'b'] as const).map((one, at) => (
        <button
          key={one}
          type="button"
          aria-pressed={shown === one}
          className={`chip ${shown === one ? '' : 'chip-off'}`}
          onClick={() => onVersion(one)}
        >
          {split.labels[at]}
        </button>
      ))}
      <span className="key">v</span>
    </span>
  );

const noNames: readonly string[] = [];

/** A theme and those above it. */
function themesOf(theme: number, all: readonly NamedTheme[]): NamedTheme[] {
  const found: NamedTheme[] = [];
  for (let id: number | null = theme; id !== null && found.length < 20; ) {
    const own: NamedTheme | undefined = all.find((one) => one.id === id);
    if (!own) break;
    found.push(own);
    id = own.parent;
  }
  return found;
}
