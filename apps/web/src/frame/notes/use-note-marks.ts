import { readNoteMarks } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { question } from '../../data/question.ts';

/** How many notes are open in a plan, and on what; undefined: not known yet. */
export const useNoteMarks = (plan: number) => useQuery(question(readNoteMarks, { params: { plan } })).data;
