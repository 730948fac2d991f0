import { useEffect } from 'react';
import { usePreferences } from '../data/me.ts';

/** Puts the user's theme on the page; without one the system's choice holds. */
export function useTheme(): void {
  const { preferences } = usePreferences();
  useEffect(() => {
    if (preferences.theme === 'system') document.documentElement.removeAttribute('data-theme');
    else document.documentElement.dataset.theme = preferences.theme;
  }, [preferences.theme]);
}
