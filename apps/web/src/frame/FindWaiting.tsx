/** In the place of find or do while its code is on its way: what is typed by then is in its field afterwards. */
export const FindWaiting = ({
  typed,
  onType,
  onClose,
}: {
  typed: string;
  onType: (typed: string) => void;
  onClose: () => void;
}) => (
  <div data-covers className="fixed inset-0 z-40 bg-neutral/25">
    <input
      // biome-ignore lint/a11y/noAutofocus: opened by the user's own key
      autoFocus
      aria-label="Find or do"
      className="plain-field fixed top-24 left-1/2 h-11 w-[560px] -translate-x-1/2 rounded-md border border-hair bg-base-100 px-4 text-[15px]"
      value={typed}
      onChange={({ target }) => onType(target.value)}
      onKeyDown={({ key }) => key === 'Escape' && onClose()}
    />
  </div>
);
