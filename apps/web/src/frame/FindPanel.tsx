import { type ComponentProps, type ComponentType, useEffect, useState } from 'react';
import { NotLoaded } from '../kit/lazy-part.tsx';
import { Part } from '../kit/Part.tsx';
import { useSettled } from '../kit/use-settled.ts';
import type { FindOrDo } from './FindOrDo.tsx';
import { FindWaiting } from './FindWaiting.tsx';

type FindProps = ComponentProps<typeof FindOrDo>;

let loaded: ComponentType<FindProps> | null = null;
const Failed = () => <NotLoaded name="Find or do" />;

/** Has it there by the time that it is asked for. */
export async function loadFind(): Promise<ComponentType<FindProps>> {
  loaded ??= await import('./FindOrDo.tsx').then(
    (code) => code.FindOrDo,
    () => null,
  );
  return loaded ?? Failed;
}

/** Find or do. Where its code is still on its way a plain field takes the keys, until they pause: none is lost. */
export function FindPanel(props: Omit<FindProps, 'typed' | 'onType'>) {
  const [typed, setTyped] = useState('');
  const [come, setCome] = useState<ComponentType<FindProps> | null>(() => loaded);
  const [isThere, setThere] = useState(come !== null);
  const pauses = useSettled(typed) === typed;
  useEffect(() => {
    if (come === null) void loadFind().then((component) => setCome(() => component));
  }, [come]);
  useEffect(() => {
    if (come !== null && pauses) setThere(true);
  }, [come, pauses]);
  const Come = isThere ? come : null;
  return (
    <Part name="Find or do">
      {Come ? (
        <Come {...props} typed={typed} onType={setTyped} />
      ) : (
        <FindWaiting typed={typed} onType={setTyped} onClose={props.onClose} />
      )}
    </Part>
  );
}
