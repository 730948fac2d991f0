import { normalise } from '../text/index.ts';
import type { ColumnRole } from './column-role.ts';

/** Roles that a heading can tell. */
export type HeadedRole = Exclude<ColumnRole, 'extra' | 'skip'>;

/** Headings by which a column is known, in normal form: English, then German, French, Spanish, Italian, Dutch, Portuguese, Polish. */
const SYNONYMS: Readonly<Record<HeadedRole, readonly string[]>> = {
  keyword: [
    ...[
      'keyword',
      'keywords',
      'keyword text',
      'key phrase',
      'search term',
      'search terms',
      'query',
      'queries',
    ],
    ...['term', 'phrase', 'search phrase', 'search query'],
    ...['suchbegriff', 'suchbegriffe', 'schlüsselwort', 'schlüsselwörter', 'suchanfrage', 'suchwort'],
    ...['mot clé', 'mots clés', 'mot-clé', 'mots-clés', 'terme de recherche', 'requête', 'requêtes'],
    ...['palabra clave', 'palabras clave', 'término de búsqueda', 'términos de búsqueda', 'consulta'],
    ...['parola chiave', 'parole chiave', 'termine di ricerca', 'termini di ricerca', 'query di ricerca'],
    ...['zoekwoord', 'zoekwoorden', 'zoekterm', 'zoektermen', 'trefwoord', 'trefwoorden'],
    ...[
      'palavra-chave',
      'palavras-chave',
      'palavra chave',
      'palavras chave',
      'termo de pesquisa',
      'termo de busca',
    ],
    ...['słowo kluczowe', 'słowa kluczowe', 'fraza', 'frazy', 'wyszukiwane hasło', 'zapytanie'],
  ],
  searches: [
    ...[
      'monthly searches',
      'searches',
      'avg. monthly searches',
      'avg monthly searches',
      'average monthly searches',
    ],
    ...['search volume', 'volume', 'monthly volume', 'searches a month', 'searches per month', 'msv'],
    ...[
      'suchvolumen',
      'suchanfragen',
      'suchen',
      'suchanfragen pro monat',
      'monatliche suchanfragen',
      'volumen',
    ],
    ...['suchen pro monat', 'durchschnittliche suchanfragen pro monat'],
    ...['recherches', 'recherches mensuelles', 'volume de recherche', 'recherches par mois'],
    ...[
      'búsquedas',
      'búsquedas mensuales',
      'volumen de búsqueda',
      'volumen de búsquedas',
      'búsquedas al mes',
    ],
    ...['ricerche', 'ricerche mensili', 'volume di ricerca', 'ricerche al mese'],
    ...['zoekopdrachten', 'zoekvolume', 'maandelijkse zoekopdrachten', 'zoekopdrachten per maand'],
    ...[
      'pesquisas',
      'pesquisas mensais',
      'volume de pesquisa',
      'volume de busca',
      'buscas',
      'buscas mensais',
    ],
    ...['wyszukiwania', 'liczba wyszukiwań', 'miesięczne wyszukiwania', 'wyszukiwania miesięcznie'],
  ],
  cpc: [
    ...[
      'cpc',
      'avg. cpc',
      'avg cpc',
      'average cpc',
      'cost per click',
      'cpc estimate',
      'estimated cpc',
      'est. cpc',
    ],
    ...['cost/click'],
    ...['klickpreis', 'kosten pro klick', 'durchschn. cpc', 'durchschnittlicher cpc'],
    ...['coût par clic', 'cpc moyen'],
    ...['coste por clic', 'costo por clic', 'cpc medio'],
    ...['costo per clic', 'cpc medio'],
    ...['kosten per klik', 'gem. cpc', 'gemiddelde cpc'],
    ...['custo por clique', 'cpc médio'],
    ...['koszt kliknięcia', 'koszt za kliknięcie', 'średni cpc'],
  ],
  competition: [
    ...['competition', 'competition index', 'comp', 'comp.'],
    ...['wettbewerb', 'konkurrenz', 'concurrence', 'competencia', 'concorrenza', 'concurrentie'],
    ...['concorrência', 'competição', 'konkurencja'],
  ],
  'match-type': [
    ...['match type', 'match', 'matching', 'match types', 'criterion type'],
    ...['übereinstimmungstyp', 'keyword-option', 'type de correspondance', 'tipo de concordancia'],
    ...[
      'tipo di corrispondenza',
      'zoektype',
      'overeenkomsttype',
      'tipo de correspondência',
      'typ dopasowania',
    ],
    ...['dopasowanie'],
  ],
};

/** Headings of columns that are kept as they are: known, so that a row of them is known for a row of headings. */
const KEPT: readonly string[] = [
  ...[
    'campaign',
    'ad group',
    'adgroup',
    'cost',
    'clicks',
    'impressions',
    'ctr',
    'position',
    'conversions',
    'note',
  ],
  ...['notes', 'url', 'final url', 'status', 'label', 'labels', 'bid', 'max cpc', 'max. cpc', 'trend'],
  ...['kampagne', 'anzeigengruppe', 'kosten', 'klicks', 'impressionen', 'notiz'],
  ...['campagne', "groupe d'annonces", 'coût', 'clics', 'impressions'],
  ...['campaña', 'grupo de anuncios', 'coste', 'costo', 'impresiones'],
  ...['campagna', 'gruppo di annunci', 'clic', 'impressioni'],
  ...['advertentiegroep', 'klikken', 'vertoningen'],
  ...['campanha', 'grupo de anúncios', 'custo', 'cliques', 'impressões'],
  ...['kampania', 'grupa reklam', 'koszt', 'kliknięcia', 'wyświetlenia'],
];

const ROLE_OF = new Map<string, HeadedRole>();
for (const [role, names] of Object.entries(SYNONYMS) as [HeadedRole, readonly string[]][])
  for (const name of names) ROLE_OF.set(normalise(name), role);
const kept: ReadonlySet<string> = new Set(KEPT.map((name) => normalise(name)));

const bare = (heading: string): string =>
  normalise(heading)
    .replace(/\s*[([].*$/, '')
    .replace(/[*:]+$/, '')
    .trim();

/** A bid to expect for a place on the page is not what a click costs. */
const OF_A_PLACE = /\b(?:page|position|pos|top|first|low|high|slot|seite|página|pagina|stron\p{L}*)\b|\d/u;

/** `CPC (GBP)`, `Avg. monthly searches*` and `Searches:` are known by their bare heading. */
export function roleOfHeading(heading: string): HeadedRole | undefined {
  const role = ROLE_OF.get(bare(heading));
  const said = /[([].*$/.exec(normalise(heading))?.[0] ?? '';
  return role === 'cpc' && OF_A_PLACE.test(said) ? undefined : role;
}

/** Whether a cell is what columns are called, also one that is only kept. */
export const isHeading = (cell: string): boolean => ROLE_OF.has(bare(cell)) || kept.has(bare(cell));
