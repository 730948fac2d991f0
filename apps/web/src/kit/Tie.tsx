/** The tie: this value is held by hand. It tells the rule's value and gives it back. */
export function Tie({ rule, onLetGo }: { rule: string; onLetGo: () => void }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      className="inline-grid size-5 shrink-0 place-items-center rounded text-primary hover:bg-base-300"
      title={`Held by hand. The rule says ${rule}. Click to let go.`}
      aria-label={`Held by hand; the rule says ${rule}. Let go`}
      onClick={(event) => {
        event.stopPropagation();
        onLetGo();
      }}
    >
      <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
        <path
          d="M2 2.5 6.5 6 11 2.5v5L6.5 6 2 7.5Z M6.5 6 4.5 12 M6.5 6l2 6"
          className="fill-none stroke-current"
          strokeWidth="1.4"
          strokeLinejoin="round"
          strokeLinecap="round"
        />
      </svg>
    </button>
  );
}
