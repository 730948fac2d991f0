import type { MatchType } from '@sprig/core/match';
import { rowKinds, sheetFormats } from '@sprig/core/outlets';
import { extraKinds } from '@sprig/core/write';
import { Plus, X } from 'lucide-react';
import { Help } from '../../frame/Help.tsx';
import { Ads } from './OutletAds.tsx';
import { Advice, Clock, OwnChecksPart } from './OutletAdvice.tsx';
import { OutletReport } from './OutletReport.tsx';
import { OutletSheets } from './OutletSheets.tsx';
import {
  CheckPart,
  ChoicePart,
  Line,
  NumberPart,
  OutletContext,
  type OutletEditing,
  Part,
  SetPart,
  TextPart,
  useOutletEditing,
} from './outlet-fields.tsx';
import { formatWords } from './ship-words.ts';

const TYPES: readonly (readonly [MatchType, string])[] = [
  ['broad', 'broad'],
  ['modified', 'modified broad'],
  ['phrase', 'phrase'],
  ['exact', 'exact'],
];

/** An outlet as sentences: what its sheets are, how it tells things, what it takes. */
export function OutletForm({ currency, ...editing }: OutletEditing & { currency: string }) {
  return (
    <OutletContext value={editing}>
      <Line>
        <TextPart at="name" label="Name of the outlet" width="w-56" />
        <span className="text-[12.5px] text-faint">known as {editing.outlet.key}</span>
      </Line>
      <div className="mt-3">
        <OutletSheets />
        <Matching />
        <Money currency={currency} />
        <Words />
        <Ads />
        <Limits />
        <Advice />
        <OwnChecksPart />
        <Clock />
        <Files />
        <OutletReport />
        <Needs />
      </div>
    </OutletContext>
  );
}

function Matching() {
  const { outlet } = useOutletEditing();
  return (
    <Part
      title="Matching"
      places={[
        'match',
        'matchTypes',
        'negativeTypes',
        'words.matchTypes',
        'words.notation',
        'words.negative',
        'words.matchSettings',
      ]}
    >
      <Line>
        Match types are told{' '}
        <ChoicePart
          at="match"
          label="How match types are told"
          choices={[
            ['column', 'in a column of their own'],
            ['notation', 'in the keyword’s notation'],
            ['setting', 'by one setting of the campaign'],
          ]}
        />
      </Line>
      <Line>
        It knows <SetPart at="matchTypes" label="Match types it knows" names={TYPES} />
      </Line>
      <Line>
        and of negatives{' '}
        <SetPart
          at="negativeTypes"
          label="Match types of negatives"
          names={TYPES.filter(([type]) => type !== 'modified')}
        />
      </Line>
      <table className="self-start">
        <tbody>
          {TYPES.filter(([type]) => outlet.matchTypes.includes(type)).map(([type, words]) => (
            <tr key={type}>
              <td className="pr-2 text-faint">{words}</td>
              <td className="py-0.5 pr-2">
                <TextPart at={`words.matchTypes.${type}`} label={`Word for ${words}`} />
              </td>
              <td>
                <TextPart at={`words.notation.${type}`} label={`Notation of ${words}`} width="w-20" />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Line>
        A negative among keywords is written{' '}
        <TextPart at="words.negative" label="Notation of a negative" width="w-20" />
        <span className="text-faint">with @ where its notation stands</span>
      </Line>
      {outlet.match === 'setting' && (
        <Line>
          Close is <TextPart at="words.matchSettings.close" label="Word for close matching" />, wide{' '}
          <TextPart at="words.matchSettings.wide" label="Word for wide matching" />
        </Line>
      )}
    </Part>
  );
}

function Money({ currency }: { currency: string }) {
  return (
    <Part title="Money" places={['bids', 'bidIncrement', 'budget', 'money']}>
      <Line>
        A bid belongs to{' '}
        <ChoicePart
          at="bids.on"
          label="What a bid belongs to"
          choices={[
            ['keyword', 'the keyword'],
            ['group', 'the ad group'],
          ]}
        />{' '}
        <CheckPart at="bids.perNetwork" label="one for each network" />
      </Line>
      <Line>
        It is at least <NumberPart at="bids.least" label="Least bid" scale={1_000_000} mayMiss /> {currency},
        in steps of <NumberPart at="bidIncrement" label="Bid step" scale={1_000_000} mayMiss />
      </Line>
      <Line>
        A daily budget is at least{' '}
        <NumberPart at="budget.least" label="Least daily budget" scale={1_000_000} mayMiss /> {currency}, and{' '}
        <NumberPart at="budget.changesPerDay" label="Budget changes a day" mayMiss /> may change in a day
      </Line>
      <Line>
        Amounts have a{' '}
        <ChoicePart
          at="money.mark"
          label="Decimal mark"
          choices={[
            ['.', 'point: 1.25'],
            [',', 'comma: 1,25'],
          ]}
        />{' '}
        and count in{' '}
        <ChoicePart
          at="money.unit"
          label="Unit of amounts"
          choices={[
            ['major', 'pounds, euros, dollars'],
            ['minor', 'pence or cents'],
          ]}
        />
      </Line>
    </Part>
  );
}

const ROWS = {
  campaign: 'campaign',
  group: 'ad group',
  keyword: 'keyword',
  negative: 'negative',
  ad: 'ad',
  extra: 'extra',
};

function Words() {
  return (
    <Part
      title="Words"
      places={[
        'words.enabled',
        'words.paused',
        'words.removed',
        'words.rowKinds',
        'words.adForms',
        'words.extraKinds',
        'gone',
        'answer',
      ]}
    >
      <Line>
        Enabled is <TextPart at="words.enabled" label="Word for enabled" />, paused{' '}
        <TextPart at="words.paused" label="Word for paused" />, removed{' '}
        <TextPart at="words.removed" label="Word for removed" />
      </Line>
      <Line>
        What the plan has no more is{' '}
        <ChoicePart
          at="gone"
          label="What becomes of rows that are gone"
          choices={[
            ['paused', 'paused there'],
            ['removed', 'removed there'],
          ]}
        />
      </Line>
      <Line>
        Rows are called{' '}
        {rowKinds.map((kind) => (
          <TextPart
            key={kind}
            at={`words.rowKinds.${kind}`}
            label={`Word for a row with a ${ROWS[kind]}`}
            width="w-24"
          />
        ))}
      </Line>
      <Line>
        Ads <TextPart at="words.adForms.plain" label="Word for a plain ad" width="w-24" />{' '}
        <TextPart at="words.adForms.assembled" label="Word for an assembled ad" width="w-24" /> and extras{' '}
        {extraKinds.map((kind) => (
          <TextPart key={kind} at={`words.extraKinds.${kind}`} label={`Word for a ${kind}`} width="w-24" />
        ))}
      </Line>
      <Line>
        Its answer tells why a row is refused under the heading{' '}
        <TextPart at="answer.refusal" label="Heading of the reason in its answer" width="w-40" />
      </Line>
    </Part>
  );
}

const LIMITS = [
  ['keywordLength', 'characters of a keyword'],
  ['keywordWords', 'words of a keyword'],
  ['campaignName', 'characters of a campaign’s name'],
  ['groupName', 'characters of an ad group’s name'],
  ['groupsPerCampaign', 'ad groups in a campaign'],
  ['rowsPerCampaign', 'keywords in a campaign'],
  ['rowsPerGroup', 'keywords in an ad group'],
  ['negativesPerGroup', 'negatives in one place'],
  ['finalUrl', 'characters of a final URL'],
] as const;

function Limits() {
  return (
    <Part title="Limits" places={['limits']}>
      <div className="grid grid-cols-2 gap-x-4 gap-y-1">
        {LIMITS.map(([name, words]) => (
          <Line key={name}>
            <NumberPart at={`limits.${name}`} label={`Most ${words}`} width="w-20" /> {words}
          </Line>
        ))}
      </div>
    </Part>
  );
}

function Files() {
  return (
    <Part title="Files" places={['file', 'rowOrder']}>
      <Line>
        Sheets are{' '}
        <SetPart
          at="file.formats"
          label="File forms"
          names={sheetFormats.map((format) => [format, formatWords[format]] as const)}
        />
      </Line>
      <Line>
        Cells of a csv are parted by{' '}
        <ChoicePart
          at="file.delimiter"
          label="Between the cells"
          choices={[
            [',', 'commas'],
            [';', 'semicolons'],
            ['|', 'upright strokes'],
          ]}
        />
        , lines end with{' '}
        <ChoicePart
          at="file.lineEnding"
          label="End of a line"
          choices={[
            ['\r\n', 'CR LF'],
            ['\n', 'LF'],
          ]}
        />
      </Line>
      <Line>
        The text is in{' '}
        <ChoicePart
          at="file.encoding"
          label="Encoding"
          choices={[
            ['utf-8', 'UTF-8'],
            ['utf-16le', 'UTF-16'],
            ['windows-1252', 'Windows-1252'],
          ]}
        />{' '}
        <CheckPart at="file.byteOrderMark" label="with a byte order mark" />
      </Line>
      <Line>
        A file has up to <NumberPart at="file.rowsPerFile" label="Rows of a file" width="w-20" mayMiss /> rows{' '}
        <CheckPart at="file.zipped" label="all files in one zip" />
      </Line>
      <Line>
        Rows of the keywords’ sheet are ordered{' '}
        <ChoicePart
          at="rowOrder"
          label="Order of keyword rows"
          choices={[
            ['group', 'by ad group'],
            ['keyword', 'by keyword'],
            ['match-type', 'by match type'],
          ]}
        />
      </Line>
    </Part>
  );
}

function Needs() {
  const { outlet, put, readOnly } = useOutletEditing();
  const { needs } = outlet;
  return (
    <Part title="What has to be in place" places={['needs']}>
      {needs.map((need, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a need is its place while it is written
        <Line key={at}>
          <TextPart at={`needs.${at}.words`} label={`What has to be in place, ${at + 1}`} width="w-72" />
          <ChoicePart
            at={`needs.${at}.before`}
            label={`When, ${at + 1}`}
            choices={[
              ['sheets', 'before sheets are taken'],
              ['live', 'before anything is shown'],
            ]}
          />
          {!readOnly && (
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs"
              aria-label={`Take out ${need.words}`}
              onClick={() =>
                put(
                  'needs',
                  needs.filter((_, place) => place !== at),
                )
              }
            >
              <X size={13} aria-hidden />
            </button>
          )}
        </Line>
      ))}
      {needs.length === 0 && (
        <Help>Such as an account that is funded. Each is ticked where the plan ships to the outlet.</Help>
      )}
      {!readOnly && (
        <button
          type="button"
          className="btn btn-ghost btn-xs self-start font-normal"
          onClick={() =>
            put('needs', [
              ...needs,
              {
                key: `need-${needs.length + 1}-${outlet.needs.length}`,
                words: 'The account is funded',
                before: 'live',
              },
            ])
          }
        >
          <Plus size={13} aria-hidden /> One more
        </button>
      )}
    </Part>
  );
}
