import { useEffect, useLayoutEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';
import { inTextField } from './keys.ts';

/** Something that can be done on a screen: by its keys, and by its name. */
export type Command = {
  /** As the key library writes them: `i`, `$mod+k`, `g n`. */
  keys: string | readonly string[];
  /** How they are told, where that differs: `j k or ↓ ↑`. */
  told?: string;
  words: string;
  /** Makes sense by its keys alone: it is not offered by name. */
  byKey?: boolean;
  /** Works in fields and over open panels too. */
  always?: boolean;
};
export type Commands<Id extends string = string> = Readonly<Record<Id, Command>>;
/** What a command does; false: it was not for it, and the key goes on. */
export type Run = (event?: KeyboardEvent) => unknown;
/** What keys do that a part of the screen handles by itself, as it is told. */
export type ToldKeys = readonly (readonly [keys: string, what: string])[];

const keysOf = ({ keys }: Command): readonly string[] => (typeof keys === 'string' ? [keys] : keys);

const shownKey = (keys: string): string =>
  keys
    .replaceAll('$mod+', 'Ctrl ')
    .replaceAll('Shift+', 'Shift ')
    .replace(/\b[a-z]$/, (key) => (keys.includes('+') ? key.toUpperCase() : key))
    .replace(/^g (?=\w)/, 'g then ');

const toldOf = (command: Command): string => command.told ?? shownKey(keysOf(command)[0] ?? '');

/** The commands as the list of keys tells them. */
export const asTold = (commands: Commands): ToldKeys =>
  Object.values(commands).map((command) => [
    toldOf(command),
    `${command.words.charAt(0).toLowerCase()}${command.words.slice(1)}`,
  ]);

type Listed = { commands: Commands; runs: { current: Readonly<Record<string, Run | undefined>> } };
/** The lists of what is on the screen now, the frame's first. */
const listed = new Set<Listed>();

export type Offered = { words: string; keys: string; run: () => void };

/** What can be done here by name, outermost first. */
export const offered = (): Offered[] =>
  [...listed].flatMap(({ commands, runs }) =>
    Object.entries(commands).flatMap(([id, command]) => {
      const run = runs.current[id];
      return command.byKey || !run
        ? []
        : [{ words: command.words, keys: toldOf(command), run: () => void run() }];
    }),
  );

/** A key that begins a sequence: what is pressed after it is part of that, and nothing by itself. */
const PREFIX = 'g';
const SEQUENCE_MS = 1_000;
let prefixAt = Number.NEGATIVE_INFINITY;
let isSecond = false;

if (typeof window !== 'undefined')
  window.addEventListener(
    'keydown',
    (event) => {
      isSecond = event.timeStamp - prefixAt < SEQUENCE_MS;
      const isPrefix = event.key === PREFIX && !event.ctrlKey && !event.metaKey && !event.altKey;
      prefixAt = isPrefix && !inTextField(event.target) ? event.timeStamp : Number.NEGATIVE_INFINITY;
    },
    { capture: true },
  );

const isCovered = () => document.querySelector('dialog[open], [cmdk-root], [data-covers]') !== null;

function isFor(event: KeyboardEvent, keys: string, { always }: Command): boolean {
  if (always) return true;
  if (event.defaultPrevented || inTextField(event.target) || isCovered()) return false;
  return keys.startsWith(`${PREFIX} `) || !isSecond;
}

/**
 * Offers commands while a screen is there, by their keys and by name. `commands` must stay the same between renders;
 * what has no run now is not offered.
 */
export function useCommands<Id extends string>(
  commands: Commands<Id>,
  runs: Readonly<Partial<Record<Id, Run>>>,
): void {
  const now = useRef<Readonly<Record<string, Run | undefined>>>(runs);
  useLayoutEffect(() => {
    now.current = runs;
  });
  // From the moment that what they act on is seen.
  useLayoutEffect(() => {
    const bound = Object.entries<Command>(commands).flatMap(([id, command]) =>
      keysOf(command).map((keys) => [
        keys,
        (event: KeyboardEvent) => {
          const run = now.current[id];
          if (run && isFor(event, keys, command) && run(event) !== false) event.preventDefault();
        },
      ]),
    );
    return tinykeys(window, Object.fromEntries(bound));
  }, [commands]);
  useEffect(() => {
    const own: Listed = { commands, runs: now };
    listed.add(own);
    return () => void listed.delete(own);
  }, [commands]);
}

type Views<Id extends string> = readonly (readonly [id: Id, name: string, key: string])[];

/** A command for each view of a stage, by its name. */
export const viewCommands = <Id extends string>(views: Views<Id>): Commands =>
  Object.fromEntries(views.map(([id, name, key]) => [`view ${id}`, { keys: key, words: name }]));

export const viewRuns = <Id extends string>(
  views: Views<Id>,
  onView: (id: Id) => void,
): Record<string, Run> => Object.fromEntries(views.map(([id]) => [`view ${id}`, () => onView(id)]));
