import { Pause, Play } from 'lucide-react';

/** Enabled or paused, as a chip that turns it over. */
export function StatusButton({
  name,
  status,
  onSet,
}: {
  name: string;
  status: 'enabled' | 'paused';
  onSet: (status: 'enabled' | 'paused') => void;
}) {
  const isPaused = status === 'paused';
  return (
    <button
      type="button"
      className={`chip inline-flex items-center gap-1 ${isPaused ? 'text-warning' : ''}`}
      aria-label={`${name} is ${status}. ${isPaused ? 'Enable' : 'Pause'} it`}
      onClick={() => onSet(isPaused ? 'enabled' : 'paused')}
    >
      {isPaused ? <Pause size={12} aria-hidden /> : <Play size={12} aria-hidden />}
      {status}
    </button>
  );
}
