import { parts } from './parts.tsx';

const themes = [
  ['sprig', 'By day'],
  ['sprig-night', 'At night'],
] as const;

/** Every part of the kit in its states, in both themes side by side: to look at while one is worked on. */
export function GalleryPage() {
  return (
    <div className="grid h-full grid-cols-2 overflow-auto">
      {themes.map(([theme, name]) => (
        <main key={theme} data-theme={theme} className="min-w-0 bg-base-100 p-6 text-base-content">
          <h1 className="font-semibold text-[17px]">{name}</h1>
          {parts.map(({ name: part, what, shown }) => (
            <section key={part} aria-label={part} className="mt-6 border-hair border-t pt-3">
              <h2 className="font-semibold text-[15px]">{part}</h2>
              <p className="mb-3 text-faint">{what}</p>
              <div className="flex flex-wrap items-start gap-6">
                {shown.map(({ state, element }) => (
                  <figure key={state} className={part === 'Table' || part === 'Yield' ? 'w-full' : ''}>
                    <figcaption className="mb-1 text-[12px] text-faint">{state}</figcaption>
                    {element}
                  </figure>
                ))}
              </div>
            </section>
          ))}
        </main>
      ))}
    </div>
  );
}
