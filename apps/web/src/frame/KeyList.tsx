import type { ToldKeys } from '../kit/commands.ts';

export const KeyList = ({ title, keys }: { title: string; keys: ToldKeys }) => (
  <section>
    <h3 className="mb-2 font-semibold">{title}</h3>
    <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-3 gap-y-1.5">
      {keys.map(([key, what]) => (
        <div key={`${key} ${what}`} className="contents">
          <dt>
            <span className="key">{key}</span>
          </dt>
          <dd className="text-[13px]">{what}</dd>
        </div>
      ))}
    </dl>
  </section>
);
