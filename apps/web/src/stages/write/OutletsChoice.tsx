import type { Outlet } from '@sprig/core/outlets';

/** The outlets that something is for; none: all that the plan ships to. */
export function OutletsChoice({
  outlets,
  chosen,
  onChange,
}: {
  outlets: readonly Pick<Outlet, 'key' | 'name'>[];
  chosen: readonly string[];
  onChange: (outlets: string[]) => void;
}) {
  const left = outlets.filter(({ key }) => !chosen.includes(key));
  return (
    <span className="inline-flex flex-wrap items-center gap-1">
      {chosen.map((key) => (
        <button
          key={key}
          type="button"
          className="chip"
          title="Take this outlet out"
          onClick={() => onChange(chosen.filter((one) => one !== key))}
        >
          {outlets.find((outlet) => outlet.key === key)?.name ?? `${key}, not shipped to`} ×
        </button>
      ))}
      {left.length > 0 && (
        <select
          className="plain-field chip cursor-pointer"
          aria-label="For which outlet"
          value=""
          onChange={({ target }) => target.value && onChange([...chosen, target.value])}
        >
          <option value="">{chosen.length === 0 ? 'all outlets' : '+ outlet'}</option>
          {left.map(({ key, name }) => (
            <option key={key} value={key}>
              {chosen.length === 0 ? `only ${name}` : name}
            </option>
          ))}
        </select>
      )}
    </span>
  );
}
