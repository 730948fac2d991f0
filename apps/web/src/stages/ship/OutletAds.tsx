import { plainOutlet } from '@sprig/core/outlets';
import { ChoicePart, Line, NumberPart, Part, TextPart, useOutletEditing } from './outlet-fields.tsx';

/** How many, from 0 to 15. */
const COUNTS = Array.from({ length: 16 }, (_, n) => [String(n), String(n)] as const);
const PARTS = ['headlines', 'descriptions', 'paths'] as const;

const PART_WORDS = { headlines: 'Headlines', descriptions: 'Descriptions', paths: 'Display paths' };

const CASES = [
  ['as-is', 'as searched'],
  ['lower', 'lower case'],
  ['sentence', 'Sentence case'],
  ['title', 'Title Case'],
] as const;

export function Ads() {
  const { outlet, put, readOnly } = useOutletEditing();
  const { insertion } = outlet.ad;
  return (
    <Part title="Ads and extras" places={['ad']}>
      {(['plain', 'assembled'] as const).map((form) => (
        <div key={form}>
          <label className="flex min-h-6 cursor-pointer items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              disabled={readOnly}
              checked={outlet.ad[form] !== null}
              onChange={({ target }) => put(`ad.${form}`, target.checked ? plainOutlet.ad[form] : null)}
            />
            It takes {form} ads
          </label>
          {outlet.ad[form] && (
            <table className="ml-6" aria-label={`Limits of ${form} ads`}>
              <thead className="text-left text-[12px] text-faint">
                <tr>
                  {['', 'characters', 'needed', 'allowed', 'shown'].map((heading) => (
                    <th key={heading} className="pr-2 font-normal">
                      {heading}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {PARTS.map((part) => (
                  <tr key={part}>
                    <td className="pr-2 text-faint">{PART_WORDS[part]}</td>
                    <td className="py-0.5 pr-2">
                      <NumberPart
                        at={`ad.${form}.${part}.limit`}
                        label={`${PART_WORDS[part]} of ${form} ads: characters`}
                      />
                    </td>
                    {(['least', 'most', 'shown'] as const).map((field) => (
                      <td key={field} className="pr-2">
                        <ChoicePart
                          choices={COUNTS}
                          read={Number}
                          at={`ad.${form}.${part}.${field}`}
                          label={`${PART_WORDS[part]} of ${form} ads: ${field}`}
                        />
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      ))}
      <label className="flex min-h-6 cursor-pointer items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          disabled={readOnly}
          checked={insertion !== null}
          onChange={({ target }) => put('ad.insertion', target.checked ? plainOutlet.ad.insertion : null)}
        />
        It fills in keywords at search time, written
      </label>
      {insertion && (
        <div className="ml-6 flex flex-col gap-1">
          {CASES.map(([style, words]) => (
            <Line key={style}>
              <TextPart at={`ad.insertion.${style}`} label={`Insertion ${words}`} width="w-64" />{' '}
              <span className="text-faint">{words}</span>
            </Line>
          ))}
          <span className="text-[12.5px] text-faint">@default stands for the text to fall back on</span>
        </div>
      )}
      <Line>
        Sitelinks have <NumberPart at="ad.extras.sitelink.text" label="Characters of a sitelink" /> characters
        and <NumberPart at="ad.extras.sitelink.line" label="Characters of a sitelink’s line" /> a line, up to{' '}
        <NumberPart at="ad.extras.sitelink.most" label="Most sitelinks" />; callouts{' '}
        <NumberPart at="ad.extras.callout.text" label="Characters of a callout" />, up to{' '}
        <NumberPart at="ad.extras.callout.most" label="Most callouts" />
      </Line>
    </Part>
  );
}
