import type { PlanState } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { computed } from '../data/question.ts';
import { offered } from '../kit/commands.ts';
import { count } from '../kit/format.ts';
import { wholePool } from '../pool/pool-store.ts';
import { poolWorker } from '../pool/use-pool.ts';
import type { Leaf } from './leaf.ts';

export type Action = { name: string; hint?: string; run: () => void };

/** Ctrl+K: stages, actions and keywords of the pool, by name. */
export function FindOrDo({
  plan,
  leaves,
  actions,
  typed,
  onType,
  onClose,
}: {
  plan: PlanState;
  leaves: readonly Leaf[];
  actions: Action[];
  typed: string;
  onType: (typed: string) => void;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  // What the screen below offers, as it was when this opened.
  const [here] = useState(offered);
  const { data: found } = useQuery({
    ...computed(plan.id, ['find', plan.revision, typed], async () => {
      const worker = poolWorker(plan.id);
      const order = await worker.query({ ...wholePool, filter: typed, state: 'all' });
      return { total: order.ids.length, rows: await worker.page(Array.from(order.ids.subarray(0, 6))) };
    }),
    enabled: typed.trim().length > 1,
  });
  const go = (run: () => void) => () => {
    onClose();
    run();
  };
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label="Find or do"
      overlayClassName="fixed inset-0 z-40 bg-neutral/25"
      contentClassName="fixed top-24 left-1/2 z-50 w-[560px] -translate-x-1/2 overflow-hidden rounded-md border border-hair bg-base-100"
    >
      <Command.Input
        className="plain-field h-11 w-full border-hair border-b px-4 text-[15px]"
        placeholder="Find a keyword, or type what to do"
        value={typed}
        onValueChange={onType}
      />
      <Command.List className="max-h-96 overflow-auto p-1.5 [&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-[11.5px] [&_[cmdk-group-heading]]:text-faint">
        <Command.Empty className="px-3 py-4 text-faint">Nothing is called that.</Command.Empty>
        <Command.Group heading="Go to">
          {leaves.map(({ path, name, tally }) => (
            <Item
              key={path}
              value={`go ${name}`}
              onSelect={go(() => navigate(`/plans/${plan.id}/${path}`))}
              name={name}
              hint={tally}
            />
          ))}
          <Item value="go all plans" onSelect={go(() => navigate('/'))} name="All plans" />
        </Command.Group>
        {typed.trim() !== '' && (
          <Command.Group heading="Try" forceMount>
            <Item
              value={`try ${typed}`}
              onSelect={go(() => navigate(`/plans/${plan.id}/build?try=${encodeURIComponent(typed.trim())}`))}
              name={`Try “${typed.trim()}” as a search`}
              hint="which keyword answers it"
            />
          </Command.Group>
        )}
        {here.length > 0 && (
          <Command.Group heading="On this screen">
            {here.map(({ words, keys, run }) => (
              <Item key={words} value={`here ${words}`} onSelect={go(run)} name={words} hint={keys} />
            ))}
          </Command.Group>
        )}
        <Command.Group heading="Do">
          {!here.some(({ words }) => words === 'Try a search') && (
            <Item
              value="try a search"
              onSelect={go(() => navigate(`/plans/${plan.id}/build?try=%20`))}
              name="Try a search"
              hint="t in Build"
            />
          )}
          {actions.map(({ name, hint, run }) => (
            <Item key={name} value={name} onSelect={go(run)} name={name} hint={hint} />
          ))}
        </Command.Group>
        {found && found.rows.length > 0 && (
          <Command.Group heading={`Keywords (${count(found.total)})`} forceMount>
            {found.rows.map(({ id, text, searches }) => (
              <Item
                key={id}
                value={`${typed} ${text} ${id}`}
                onSelect={go(() =>
                  navigate(`/plans/${plan.id}/gather?filter=${encodeURIComponent(text)}&state=all`),
                )}
                name={text}
                hint={`${count(searches)} searches`}
              />
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command.Dialog>
  );
}

function Item({
  value,
  name,
  hint,
  onSelect,
}: {
  value: string;
  name: string;
  hint?: string;
  onSelect: () => void;
}) {
  return (
    <Command.Item
      value={value}
      onSelect={onSelect}
      className="flex cursor-pointer items-center justify-between gap-4 rounded px-2.5 py-1.5 data-[selected=true]:bg-wash"
    >
      <span className="truncate">{name}</span>
      {hint && <span className="shrink-0 text-[12px] text-faint">{hint}</span>}
    </Command.Item>
  );
}
