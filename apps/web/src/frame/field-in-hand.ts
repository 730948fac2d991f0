import { type RefObject, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Somebody } from './presence.ts';

/** Parts of an address that say what a screen is about: fields of the same name may be of another thing. */
const ABOUT = ['view', 'at', 'open', 'pattern', 'group'] as const;
const SEPARATOR = '\n';
const LONGEST = 300;

/** What the screen is about, as far as its address says. */
export function aboutHere(search: string): string {
  const params = new URLSearchParams(search);
  return ABOUT.flatMap((name) => {
    const value = params.get(name);
    return value === null || value === '' ? [] : [`${name}=${value}`];
  }).join('&');
}

/** A field as others are told of it: its name and what it is of. */
const toldField = (label: string, search: string): string =>
  `${label}${SEPARATOR}${aboutHere(search)}`.slice(0, LONGEST);

/** What a field that was told of is called. */
export const fieldLabel = (field: string): string => field.split(SEPARATOR)[0] ?? '';
/** Of what it is. */
export const fieldAbout = (field: string): string => field.split(SEPARATOR)[1] ?? '';

const WRITES =
  'input:not([type=checkbox]):not([type=radio]):not([readonly]), textarea, [contenteditable=true]';

/** What somebody writes in, by its name; null: in nothing that is the plan's. */
function labelOf(element: Element | null): string | null {
  if (!element?.matches(WRITES) || element.matches('[data-filter]')) return null;
  if (element.closest('aside[aria-label="Notes"]')) return null;
  return element.getAttribute('aria-label');
}

/** In which field of the plan one writes, as others are told; empty: in none. */
export function useFieldInHand(page: RefObject<HTMLElement | null>): string {
  const [field, setField] = useState('');
  useEffect(() => {
    const heed = () => {
      const { activeElement } = document;
      const isHere = page.current?.contains(activeElement) || activeElement?.closest('dialog') !== null;
      const label = isHere ? labelOf(activeElement) : null;
      setField(label === null ? '' : toldField(label, window.location.search));
    };
    const leave = () => setTimeout(heed, 0);
    document.addEventListener('focusin', heed);
    document.addEventListener('focusout', leave);
    return () => {
      document.removeEventListener('focusin', heed);
      document.removeEventListener('focusout', leave);
    };
  }, [page]);
  return field;
}

/** Says so where somebody else writes in the same field. */
export function useToldTogether(others: readonly Somebody[], place: string, field: string): void {
  const together = field === '' ? [] : others.filter((one) => one.place === place && one.field === field);
  const names = together.map(({ name }) => name).join(', ');
  useEffect(() => {
    if (names === '') return;
    toast(
      `${names} ${together.length > 1 ? 'are' : 'is'} writing here too. Whoever is second is asked first.`,
      {
        id: 'writing-together',
      },
    );
  }, [names, together.length]);
}
