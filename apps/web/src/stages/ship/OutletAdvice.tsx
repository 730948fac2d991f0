import { type Outlet, type OwnCheck, rowKinds } from '@sprig/core/outlets';
import { Plus, X } from 'lucide-react';
import { Help } from '../../frame/Help.tsx';
import { timeZones } from '../../kit/time-zones.ts';
import { ChoicePart, Line, NumberPart, Part, TextPart, useOutletEditing } from './outlet-fields.tsx';
import { kindWords, valueWords } from './ship-words.ts';

/** What its people advise: findings speak of what is over or under it. */
export function Advice() {
  return (
    <Part title="What is advised" places={['advised', 'bids.conversions']}>
      {(['plain', 'assembled'] as const).map((form) => (
        <Line key={form}>
          <NumberPart at={`advised.${form}.least`} label={`Least ${form} ads of an ad group`} mayBeZero /> to{' '}
          <NumberPart at={`advised.${form}.most`} label={`Most ${form} ads of an ad group`} /> {form} ads in
          an ad group
        </Line>
      ))}
      <Line>
        up to{' '}
        <NumberPart at="advised.keywordsPerGroup" label="Most keywords advised in an ad group" width="w-20" />{' '}
        keywords in an ad group, and{' '}
        <NumberPart
          at="advised.groupsPerCampaign"
          label="Most ad groups advised in a campaign"
          width="w-20"
          mayMiss
        />{' '}
        ad groups in a campaign
      </Line>
      <Line>
        at least <NumberPart at="advised.sitelinks" label="Least sitelinks of a campaign" mayBeZero />{' '}
        sitelinks and <NumberPart at="advised.callouts" label="Least callouts of a campaign" mayBeZero />{' '}
        callouts for a campaign
      </Line>
      <Line>
        It bids by itself for a campaign of{' '}
        <NumberPart at="bids.conversions" label="Conversions before it bids by itself" mayMiss /> conversions
        in 30 days
      </Line>
    </Part>
  );
}

/** By whose clock its account goes. */
export const Clock = () => (
  <Part title="Clock" places={['timeZone']}>
    <Line>
      Its account goes by the clock of{' '}
      <ChoicePart
        at="timeZone"
        label="Clock of the account"
        choices={[['', 'the plan'], ...timeZones.map((zone): [string, string] => [zone, zone])]}
        read={(zone) => (zone === '' ? null : zone)}
      />
    </Line>
    <Help>Hours of schedules are written by this clock, by today’s difference, and read back so.</Help>
  </Part>
);

const first: OwnCheck = {
  value: 'headline1',
  kind: null,
  is: 'with',
  text: '',
  severity: 'warning',
  words: 'This is not to stand here.',
};

/** What its people look at besides: cells that have a text, lack it, are too long, or are empty. */
export function OwnChecksPart() {
  const { outlet, put, readOnly } = useOutletEditing();
  const { checks } = outlet;
  const values = told(outlet).map((value): [string, string] => [value, valueWords(value)]);
  return (
    <Part title="Checks of its own" places={['checks']}>
      {checks.map((check, at) => {
        const n = at + 1;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a check is its place while it is written
          <Line key={at}>
            <ChoicePart at={`checks.${at}.value`} label={`What is looked at, ${n}`} choices={values} /> of{' '}
            <ChoicePart
              at={`checks.${at}.kind`}
              label={`Of which rows, ${n}`}
              choices={[
                ['', 'any row'],
                ...rowKinds.map((kind): [string, string] => [kind, `each ${kindWords[kind]}`]),
              ]}
              read={(kind) => (kind === '' ? null : kind)}
            />
            <ChoicePart
              at={`checks.${at}.is`}
              label={`What is objected to, ${n}`}
              choices={[
                ['with', 'with'],
                ['without', 'without'],
                ['over', 'longer than'],
                ['empty', 'that is empty'],
              ]}
            />
            {check.is !== 'empty' && (
              <TextPart
                at={`checks.${at}.text`}
                label={check.is === 'over' ? `Most characters, ${n}` : `Text that is looked for, ${n}`}
                width={check.is === 'over' ? 'w-16' : 'w-28'}
              />
            )}
            {check.is === 'over' && 'characters'}
            <ChoicePart
              at={`checks.${at}.severity`}
              label={`How it is told, ${n}`}
              choices={[
                ['warning', 'warns'],
                ['blocker', 'stops the sheets'],
              ]}
            />
            <TextPart at={`checks.${at}.words`} label={`What is said of it, ${n}`} width="w-72" />
            {!readOnly && (
              <button
                type="button"
                className="btn btn-ghost btn-square btn-xs"
                aria-label={`Take out the check ${n}`}
                onClick={() =>
                  put(
                    'checks',
                    checks.filter((_, place) => place !== at),
                  )
                }
              >
                <X size={13} aria-hidden />
              </button>
            )}
          </Line>
        );
      })}
      {checks.length === 0 && (
        <Help>
          Such as a headline without a price, or a campaign without a label. Findings speak of them.
        </Help>
      )}
      {!readOnly && (
        <button
          type="button"
          className="btn btn-ghost btn-xs self-start font-normal"
          onClick={() => put('checks', [...checks, { ...first, value: told(outlet)[0] ?? first.value }])}
        >
          <Plus size={13} aria-hidden /> One more check
        </button>
      )}
    </Part>
  );
}

/** What the outlet's sheets tell, ads' headlines first. */
function told({ sheets }: Outlet) {
  const all = [...new Set(sheets.flatMap(({ columns }) => columns.map(({ value }) => value)))].filter(
    (value) => value !== 'fixed',
  );
  return [...all].sort((a, b) => Number(b === first.value) - Number(a === first.value));
}
