import type { NegativeType } from '../match/index.ts';

export type StarterList = { name: string; about: string; negatives: { text: string; type: NegativeType }[] };

const broad = (words: string) =>
  words
    .trim()
    .split(/\s*,\s*/)
    .map((text) => ({ text, type: text.includes(' ') ? ('phrase' as const) : ('broad' as const) }));

/** Lists of ordinary words that seldom belong in a shop's campaigns; each plan attaches what it wants. */
export const starterLists: readonly StarterList[] = [
  {
    name: 'Work and training',
    about: 'People who look for a job, not for goods',
    negatives: broad(
      `job, jobs, career, careers, vacancy, vacancies, salary, salaries, wage, wages, recruitment, internship,
       apprenticeship, apprentice, cv, interview, work from home, job description, how to become`,
    ),
  },
  {
    name: 'For nothing',
    about: 'People who will not pay',
    negatives: broad(
      'free, freebie, gratis, torrent, download, crack, giveaway, for nothing, no cost, free sample',
    ),
  },
  {
    name: 'Make it oneself',
    about: 'People who build or mend it at home',
    negatives: broad(
      'diy, homemade, blueprint, tutorial, plans to build, how to make, how to build, build your own, make your own',
    ),
  },
  {
    name: 'Second meanings',
    about: 'Films, songs, games, meanings: the word without the goods',
    negatives: broad(
      `film, movie, song, lyrics, chords, game, games, meaning, definition, synonym, crossword, wallpaper, clipart,
       drawing, tattoo, meme, wiki, history of, dream about`,
    ),
  },
];
