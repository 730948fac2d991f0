import { useEffect, useRef, useState } from 'react';

type Props = { label: string; placeholder: string; value: string; onChange: (filter: string) => void };

/**
 * The filter of a table, reached by `/`. It keeps what is typed itself, since the address that the filter lives in
 * follows a moment later, and takes the address's word only when nobody types in it.
 */
export function FilterField({ label, placeholder, value, onChange }: Props) {
  const [typed, setTyped] = useState(value);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (document.activeElement !== field.current) setTyped(value);
  }, [value]);
  const change = (text: string) => {
    setTyped(text);
    onChange(text);
  };
  return (
    <input
      ref={field}
      data-filter
      type="search"
      aria-label={label}
      className="input input-sm w-72"
      placeholder={placeholder}
      value={typed}
      onChange={(event) => change(event.target.value)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        if (typed) change('');
        else event.currentTarget.blur();
      }}
    />
  );
}
