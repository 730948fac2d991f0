import { toast } from 'sonner';

/** Says the words of a refusal aloud. */
export async function said(work: Promise<string | null>): Promise<string | null> {
  const words = await work;
  if (words) toast.error(words);
  return words;
}
