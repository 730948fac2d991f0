import { type DeskGroup, type PlanState, readGroup } from '@sprig/contracts';
import type { AdField } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { Check, CornerUpLeft, Send } from 'lucide-react';
import { type RefObject, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { question } from '../../../data/question.ts';
import { NoteOn } from '../../../frame/notes/NoteOn.tsx';
import { useMay } from '../../../kit/allowed.tsx';
import { count, counted } from '../../../kit/format.ts';
import { matchWords } from '../../../kit/match-words.ts';
import { PickButtons } from '../../../kit/PickButtons.tsx';
import { useWorked } from '../../../pool/use-pool.ts';
import { AdCard } from '../AdCard.tsx';
import { PageText } from '../PageText.tsx';
import type { AdMaking, WritingState } from '../use-writing.ts';
import { givenText, stateText } from './desk-words.ts';

export type OnMove = (
  state: DeskGroup['state'],
  isJudged: boolean,
  reason?: string,
  onMoved?: () => void,
) => void;

type Props = {
  plan: PlanState;
  group: DeskGroup;
  today: string;
  writing: WritingState;
  made: AdMaking | null;
  isBusy: boolean;
  /** For what was typed to be built. */
  isWaiting: boolean;
  onMove: OnMove;
  /** Is set to what asks for the reason. */
  onSendBack: RefObject<() => void>;
};

/** One ad group at the desk: its ads, to be written where they stand, and beside them what they are written from. */
export function DeskGroupView(props: Props) {
  const { plan, group, today, writing, made, isBusy, isWaiting, onMove, onSendBack } = props;
  const { pool, fit, input, hold, release, asked } = writing;
  const may = useMay();
  const [reason, setReason] = useState<string | null>(null);
  const { data: own = null } = useWorked(
    async () => (fit ? await pool.worker.writeGroup(group.key) : null),
    `desk:${group.key}:${asked}:${fit?.groups ?? 'none'}`,
  );
  const ads = own && made ? made.writer.of(own).ads : [];
  const [first] = ads;
  const leads = first?.address.final.status === 'address' ? first.address.final.href : '';
  const text = stateText(group);
  const isHandable = group.ads > 0 && group.misfits === 0;
  useEffect(() => {
    onSendBack.current = () => isHandable && setReason((typed) => typed ?? '');
  }, [onSendBack, isHandable]);
  return (
    <>
      <section aria-label={`The ads of ${group.name}`} className="flex min-w-0 flex-1 flex-col">
        <header className="shrink-0 border-hair border-b px-4 py-2">
          <p className="flex flex-wrap items-baseline gap-x-2">
            <b className="text-[15px]">{group.name}</b>
            <span className="text-faint">
              {group.campaign} · {count(group.searches)} searches
            </span>
            <NoteOn plan={plan.id} subject={{ kind: 'group', key: group.key, name: group.name }} />
            <span className="ml-auto flex items-center gap-1">
              {may('write') && group.state !== 'handed' && group.state !== 'accepted' && (
                <button
                  type="button"
                  className="btn btn-sm"
                  disabled={isBusy || !isHandable}
                  title={isHandable ? undefined : 'Every ad has to fit first'}
                  onClick={() => onMove('handed', false)}
                >
                  <Send size={13} aria-hidden /> Hand over <span className="key">o</span>
                </button>
              )}
              {may('write') && group.state === 'handed' && (
                <button
                  type="button"
                  className="btn btn-ghost btn-sm"
                  disabled={isBusy}
                  onClick={() => onMove('open', false)}
                >
                  Take it back
                </button>
              )}
              {may('approve') && (
                <Judging
                  group={group}
                  isBusy={isBusy}
                  isHandable={isHandable}
                  onMove={onMove}
                  onSendBack={() => setReason('')}
                />
              )}
            </span>
          </p>
          {group.given && (
            <p className="text-[13px]">
              <span className={group.given.isYou ? 'text-primary' : 'text-faint'}>
                {givenText(group.given, today)}
              </span>
              : {group.given.text}
            </p>
          )}
          {isWaiting ? (
            <p role="status" className="text-[13px] text-faint">
              What was written is being built …
            </p>
          ) : (
            text && (
              <p className={`text-[13px] ${group.state === 'back' ? 'text-error' : 'text-faint'}`}>{text}</p>
            )
          )}
          {reason !== null && (
            <SendBack
              reason={reason}
              isBusy={isBusy}
              isHandable={isHandable}
              onReason={setReason}
              onSend={() => onMove('back', true, reason, () => setReason(null))}
              onClose={() => setReason(null)}
            />
          )}
        </header>
        <div
          data-desk-ads
          className="flex min-h-0 flex-1 flex-wrap content-start gap-3 overflow-auto bg-base-200/60 p-4"
        >
          {own && ads.length === 0 && (
            <p className="text-faint">
              No pattern makes an ad for this group.{' '}
              <Link to="../write?start=lines" relative="path" className="link">
                Begin one
              </Link>
              , or widen one that is there.
            </p>
          )}
          {own &&
            ads.map((ad) => (
              <div key={ad.key} className="w-[340px]">
                <AdCard
                  group={own}
                  ad={ad}
                  adsInGroup={1}
                  isChosen={false}
                  onChoose={() => {}}
                  site={input?.site ?? ''}
                  onHold={(key, field, typed) => hold(key, field as AdField, typed)}
                  onLetGo={(key, field) => release([{ rowKey: key, field }])}
                />
              </div>
            ))}
        </div>
      </section>
      <Around plan={plan.id} group={group} leads={leads} />
    </>
  );
}

type JudgingProps = Pick<Props, 'group' | 'isBusy' | 'onMove'> & {
  isHandable: boolean;
  onSendBack: () => void;
};

/** What whoever may accept says of ads. */
function Judging({ group, isBusy, isHandable, onMove, onSendBack }: JudgingProps) {
  if (group.state === 'accepted')
    return (
      <button
        type="button"
        className="btn btn-ghost btn-sm"
        disabled={isBusy}
        onClick={() => onMove('open', true)}
      >
        Accept no more
      </button>
    );
  return (
    <>
      <button type="button" className="btn btn-sm" disabled={isBusy || !isHandable} onClick={onSendBack}>
        <CornerUpLeft size={13} aria-hidden /> Send back <span className="key">x</span>
      </button>
      <button
        type="button"
        className="btn btn-primary btn-sm"
        disabled={isBusy || !isHandable}
        onClick={() => onMove('accepted', true)}
      >
        <Check size={14} aria-hidden /> Accept <span className="key !text-primary-content">y</span>
      </button>
    </>
  );
}

type SendBackProps = {
  reason: string;
  isBusy: boolean;
  /** The ads may have come to fit no more while the reason was typed. */
  isHandable: boolean;
  onReason: (typed: string) => void;
  onSend: () => void;
  onClose: () => void;
};

const SendBack = ({ reason, isBusy, isHandable, onReason, onSend, onClose }: SendBackProps) => (
  <form
    className="mt-1 flex items-center gap-1"
    onSubmit={(event) => {
      event.preventDefault();
      if (isHandable && reason.trim() !== '') onSend();
    }}
  >
    <input
      aria-label="What is to be changed"
      // biome-ignore lint/a11y/noAutofocus: it was asked for
      autoFocus
      className="input input-sm min-w-0 flex-1"
      placeholder="What is to be changed?"
      maxLength={2_000}
      value={reason}
      onChange={({ target }) => onReason(target.value)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onClose();
      }}
    />
    <button
      type="submit"
      className="btn btn-sm"
      disabled={isBusy || !isHandable || reason.trim() === ''}
      title={isHandable ? undefined : 'Every ad has to fit first'}
    >
      Send back
    </button>
    <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
      Not now
    </button>
  </form>
);

const BESIDE = [
  ['searches', 'Searches'],
  ['page', 'Page'],
] as const;

/** What ads are written from: the searches that the group is for, and the page that they lead to. */
function Around({ plan, group, leads }: { plan: number; group: DeskGroup; leads: string }) {
  const [shown, setShown] = useState<'searches' | 'page'>('searches');
  const { data: page } = useQuery(question(readGroup, { params: { plan, group: group.key } }));
  const texts = [...new Map(page?.rows.map((row) => [row.text, row]) ?? []).values()];
  return (
    <aside aria-label="Around the ads" className="flex w-[270px] shrink-0 flex-col border-hair border-l">
      <PickButtons label="Beside the ads" picks={BESIDE} current={shown} onPick={setShown} />
      {shown === 'page' ? (
        <PageText plan={plan} address={leads} search={group.keyword} />
      ) : (
        <div className="min-h-0 flex-1 overflow-auto px-3 py-2 text-[13px]" tabIndex={0}>
          <p className="mb-1 text-[12px] text-faint">{counted(texts.length, 'keyword')}</p>
          <ul>
            {texts.map(({ text, searches, type }) => (
              <li key={text} className="flex justify-between gap-2 py-0.5" title={matchWords[type]}>
                <span className="min-w-0 break-words">{text}</span>
                <span className="text-faint">{count(searches)}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </aside>
  );
}
