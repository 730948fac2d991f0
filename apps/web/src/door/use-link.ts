import { readLink } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { question } from '../data/question.ts';

/** What the link of a mail is for. */
export const useLink = (token: string) =>
  useQuery({ ...question(readLink, { body: { token } }), staleTime: Number.POSITIVE_INFINITY, retry: false });
