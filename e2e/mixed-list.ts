/** A pasted sheet with every notation, repeats, errors and figures; by columns of keyword, searches and CPC. */
export const mixedList = [
  'Keyword\tSearches\tCPC',
  'kayak hire\t1,300\t0.58',
  '[kayak hire]\t--\t--',
  'canoe\t900\t0.41',
  'Canoe\t--\t--',
  'paddle board\t2,400\t£0.75',
  '"""paddle board"""\t\t',
  '[paddle board]\t\t',
  '[sea kayak]\t320\t0.62',
  '"""guided kayak tour"""\t90\t1.04',
  '+folding +canoe\t40\t0.66',
  '+red canoe\t10\t0.30',
  '“river kayak”\t70\t0.50',
  '［dry bag］\t210\t0.25',
  'roof rack\t1K – 10K\t0.45',
  'buoyancy aid\t< 10\t--',
  "kids' kayak\t50\t0.33",
  'sit-on-top kayak\t170\t0.70',
  'kayak lessons\t60\t1.204',
  'carbon paddle\t30\t9.00',
  'sup\t500\t0.01',
  'inflatable two person touring sea kayak\t20\t0.55',
  'café canoe\t5\t0.20',
  '-free\t\t',
  '-"kayak jobs"\t\t',
  '-[sup meaning]\t\t',
  '-free\t\t',
  '[open kayak\t10\t0.10',
  'kayak]\t10\t0.10',
  'lone + kayak\t10\t0.10',
  're+d kayak\t10\t0.10',
  '=cmd()\t10\t0.10',
  '<b>kayak</b>\t10\t0.10',
  'kayak, canoe\t10\t0.10',
  '[]\t10\t0.10',
  'canoe hire\tlots\t0.44',
  'kayak hire wrenport\t25\t0.91',
  'paddle\t800\t0.38',
  'raft\t0\t0.22',
  'used kayak\t140\t0.36',
  'best canoe\t75\t0.29',
  'kayak rental\t110\t0.88',
  'Total\t9,000\t',
].join('\n');

/** What the pool holds of it, in its order: keyword, match types, bids in pounds; worked out by hand. */
export const expectedRows: [
  keyword: string,
  base: string,
  rows: [type: string, text: string, bid: string][],
][] = [
  ['kayak hire', '0.58', [['Exact', 'kayak hire', '0.73']]],
  [
    'canoe',
    '0.41',
    [
      ['Phrase', 'canoe', '0.41'],
      ['Exact', 'canoe', '0.51'],
    ],
  ],
  [
    'paddle board',
    '0.75',
    [
      ['Phrase', 'paddle board', '0.75'],
      ['Exact', 'paddle board', '0.94'],
    ],
  ],
  ['sea kayak', '0.62', [['Exact', 'sea kayak', '0.78']]],
  ['guided kayak tour', '1.04', [['Phrase', 'guided kayak tour', '1.04']]],
  ['folding canoe', '0.66', [['Modified broad', '+folding +canoe', '0.56']]],
  ['red canoe', '0.30', [['Modified broad', '+red canoe', '0.26']]],
  ['river kayak', '0.50', [['Phrase', 'river kayak', '0.50']]],
  ['dry bag', '0.25', [['Exact', 'dry bag', '0.31']]],
  [
    'roof rack',
    '0.45',
    [
      ['Phrase', 'roof rack', '0.45'],
      ['Exact', 'roof rack', '0.56'],
    ],
  ],
  [
    'buoyancy aid',
    '0.40',
    [
      ['Phrase', 'buoyancy aid', '0.40'],
      ['Exact', 'buoyancy aid', '0.50'],
    ],
  ],
  [
    "kids' kayak",
    '0.33',
    [
      ['Phrase', "kids' kayak", '0.33'],
      ['Exact', "kids' kayak", '0.41'],
    ],
  ],
  [
    'sit-on-top kayak',
    '0.70',
    [
      ['Phrase', 'sit-on-top kayak', '0.70'],
      ['Exact', 'sit-on-top kayak', '0.88'],
    ],
  ],
  [
    'kayak lessons',
    '1.20',
    [
      ['Phrase', 'kayak lessons', '1.20'],
      ['Exact', 'kayak lessons', '1.51'],
    ],
  ],
  [
    'carbon paddle',
    '5.00',
    [
      ['Phrase', 'carbon paddle', '5.00'],
      ['Exact', 'carbon paddle', '5.00'],
    ],
  ],
  [
    'sup',
    '0.05',
    [
      ['Phrase', 'sup', '0.05'],
      ['Exact', 'sup', '0.05'],
    ],
  ],
  [
    'inflatable two person touring sea kayak',
    '0.55',
    [
      ['Phrase', 'inflatable two person touring sea kayak', '0.55'],
      ['Exact', 'inflatable two person touring sea kayak', '0.69'],
    ],
  ],
  [
    'café canoe',
    '0.20',
    [
      ['Phrase', 'café canoe', '0.20'],
      ['Exact', 'café canoe', '0.25'],
    ],
  ],
  [
    'canoe hire',
    '0.44',
    [
      ['Phrase', 'canoe hire', '0.44'],
      ['Exact', 'canoe hire', '0.55'],
    ],
  ],
  [
    'kayak hire wrenport',
    '0.91',
    [
      ['Phrase', 'kayak hire wrenport', '0.91'],
      ['Exact', 'kayak hire wrenport', '1.14'],
    ],
  ],
  [
    'paddle',
    '0.38',
    [
      ['Phrase', 'paddle', '0.38'],
      ['Exact', 'paddle', '0.48'],
    ],
  ],
  [
    'raft',
    '0.22',
    [
      ['Phrase', 'raft', '0.22'],
      ['Exact', 'raft', '0.28'],
    ],
  ],
  [
    'used kayak',
    '0.36',
    [
      ['Phrase', 'used kayak', '0.36'],
      ['Exact', 'used kayak', '0.45'],
    ],
  ],
  [
    'best canoe',
    '0.29',
    [
      ['Phrase', 'best canoe', '0.29'],
      ['Exact', 'best canoe', '0.36'],
    ],
  ],
  [
    'kayak rental',
    '0.88',
    [
      ['Phrase', 'kayak rental', '0.88'],
      ['Exact', 'kayak rental', '1.10'],
    ],
  ],
];
