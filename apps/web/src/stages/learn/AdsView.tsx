import {
  type AdsBy,
  type AdTest,
  adsBy,
  MOST_AD_SIDES,
  type PlanState,
  type ReportImport,
} from '@sprig/contracts';
import { type AdTestRules, usualAdTestRules } from '@sprig/core/judge';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { useAddress } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count } from '../../kit/format.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { daysText, grainText } from '../../plan/results/result-words.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { AdTestRulesLine } from './AdTestRulesLine.tsx';
import { AdTests } from './AdTests.tsx';
import { groupColumns } from './ad-test-columns.tsx';
import { isDecided, restsOn } from './ad-test-words.ts';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { useAdTestGroups, useAdTests } from './use-ad-tests.ts';

type Props = { plan: PlanState; imports: readonly ReportImport[] | undefined; onReports: () => void };

const byChoices: { value: AdsBy; words: string }[] = [
  { value: 'version', words: 'by version' },
  { value: 'pattern', words: 'by pattern' },
  { value: 'label', words: 'by label' },
];
const NONE: Record<AdsBy, string> = {
  version: 'Write can split a pattern into two versions that run in every ad group.',
  pattern: 'Two patterns are held against each other where both run in the same ad groups.',
  label: 'Two labels are held against each other where ads of both run in the same ad groups.',
};

/** Two ads against each other over all ad groups that have both; the better one is kept. */
export function AdsView({ plan, imports, onReports }: Props) {
  const [params, set] = useAddress();
  const by = adsBy.find((one) => one === params.get('ads')) ?? 'version';
  const { data: answer, error } = useAdTests(plan.id, by);
  const facts = useFacts(plan.id);
  const rules = facts.value?.adTests ?? usualAdTestRules;
  const tests = answer?.tests ?? [];
  const open = tests.find(({ id }) => id === params.get('test')) ?? tests[0];
  if (error || !answer) return <NotYet error={error} words="Working out …" />;
  return (
    <>
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-2 border-hair border-b px-4 text-[14px]">
        Ads against each other
        <ChoiceChip
          label="What is held against each other"
          value={by}
          choices={byChoices}
          onChoose={(value) => set({ ads: value === 'version' ? '' : value, test: '' })}
        />
        {answer.range && (
          <span>
            in <b>{answer.account?.name}</b>, {daysText(answer.range)}
          </span>
        )}
        <span className="text-[12.5px] text-faint">
          {[
            answer.grain && grainText(answer.grain),
            restsOn(answer),
            by !== 'version' && `each against each of the ${MOST_AD_SIDES} that most ads have`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </div>
      {answer.why ? (
        <NothingTold why={answer.why} by="ad" onReports={onReports} />
      ) : (
        <>
          <AdTestRulesLine facts={facts} />
          {open ? (
            <div className="flex min-h-0 flex-1">
              <AdTests
                plan={plan.id}
                by={by}
                tests={tests}
                others={answer.others}
                open={open}
                rules={rules}
              />
              <Groups plan={plan.id} by={by} test={open} rules={rules} />
            </div>
          ) : (
            <div className="grid flex-1 place-items-center p-6">
              <Empty title="No two ads ran side by side">
                <p>{NONE[by]}</p>
                <Link className="underline" to="../write">
                  To Write
                </Link>
              </Empty>
            </div>
          )}
        </>
      )}
      <Yield
        terms={[
          { id: 'reports', figure: count(imports?.length ?? 0), words: 'reports' },
          { id: 'tests', figure: count(tests.length), words: tests.length === 1 ? 'test' : 'tests' },
          { id: 'decided', figure: count(tests.filter(isDecided).length), words: 'decided' },
        ]}
      />
    </>
  );
}

type GroupsProps = { plan: number; by: AdsBy; test: AdTest; rules: AdTestRules };

function Groups({ plan, by, test, rules }: GroupsProps) {
  const source = useAdTestGroups(plan, by, test.id);
  const widths = useWidths('ad-tests');
  const selection = useSelection<number>();
  const { names } = test;
  const columns = useMemo(() => groupColumns(names, rules), [names, rules]);
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <Table
        label={`Ad groups: ${names[0]} against ${names[1]}`}
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        empty={<Empty title="No ad group had both">They have to run in the same ad groups.</Empty>}
      />
    </div>
  );
}
