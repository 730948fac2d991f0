/**
 * Faults that a developer could make, one at a time: `find` stands once in `file` and becomes `put`. Each changes what
 * somebody would see; none is told by a crash at the start.
 */
export const faults = [
  // Core
  [
    'a keyword exactly as long as allowed is too long',
    'packages/core/src/findings/rules/gather.ts',
    'lengthOf(text) > limits.keywordLength)',
    'lengthOf(text) >= limits.keywordLength)',
  ],
  [
    'a keyword of exactly as many words as allowed has too many',
    'packages/core/src/findings/rules/gather.ts',
    'wordCount(text) > limits.keywordWords',
    'wordCount(text) >= limits.keywordWords',
  ],
  [
    'one more negative than a group may hold',
    'packages/core/src/sheets/carry.ts',
    'carried.length >= negativesPerGroup',
    'carried.length > negativesPerGroup',
  ],
  [
    'a negative goes as a wider one',
    'packages/core/src/sheets/carry.ts',
    'result[type] = narrower ?? (mayWiden ? (wider ?? null) : null);',
    'result[type] = narrower ?? wider ?? null;',
  ],
  [
    'a line that fills its field does not fit',
    'packages/core/src/write/fit-line.ts',
    'if (length <= limit) return',
    'if (length < limit) return',
  ],
  [
    'an empty cell is read as a change',
    'packages/core/src/sheets/merge-rows.ts',
    "if (after === '' && silentValues.has(value)) return;",
    '',
  ],
  [
    'a cut keyword that is held by hand is placed',
    'packages/core/src/sort/placing.ts',
    'if (pool.isIn(row) && known.has(theme)) at[row] = theme;',
    'if (known.has(theme)) at[row] = theme;',
  ],
  [
    'bids are rounded down',
    'packages/core/src/money/round.ts',
    'Math.floor((product * 2 + unit) / (unit * 2)) * increment',
    'Math.floor(product / unit) * increment',
  ],
  [
    'a held bid is kept between floor and ceiling',
    'packages/core/src/build/bid.ts',
    'if (parts.held !== null) return multiplied(parts.held, [], increment);',
    'if (parts.held !== null) return between(multiplied(parts.held, [], increment), ladder.floor, ladder.ceiling);',
  ],
  [
    'fences between groups that never show together',
    'packages/core/src/build/fences.ts',
    'const keeper = keepers.find((one) => overlaps(countAt(classOf, one), countAt(classOf, group)));',
    'const keeper = keepers.find((one) => one !== group || overlaps(countAt(classOf, one), 0));',
  ],
  [
    'a negative phrase matches the beginning of a word',
    'packages/core/src/match/negatives.ts',
    'return ` ${search} `.includes(` ${norm} `);',
    'return ` ${search} `.includes(` ${norm}`);',
  ],
  [
    'look-alikes across directional words',
    'packages/core/src/prune/keyword-spelling.ts',
    'const ends = at === list.length || directionalWords.has(stringAt(this.parts.texts, numberAt(list, at)));',
    'const ends = at === list.length;',
  ],
  [
    'full-width letters are other letters',
    'packages/core/src/text/normal-form.ts',
    "plain.normalize('NFKC').toLowerCase().normalize('NFKC')",
    "plain.normalize('NFC').toLowerCase()",
  ],
  [
    'a waiting budget is written all the same',
    'packages/core/src/sheets/difference.ts',
    'row.cells[budget] = old;',
    '',
  ],
  [
    'a dash is the figure 0',
    'packages/core/src/gather/figure.ts',
    'const NONE = /^(?:-+|–|—|n\\/?a|none|null)?$/i;',
    'const NONE = /^(?:–|—|n\\/?a|none|null)?$/i;',
  ],
  [
    'a part takes one group too many',
    'packages/core/src/build/split-parts.ts',
    'return groups < this.limits.groups && (used',
    'return groups <= this.limits.groups && (used',
  ],
  [
    'a name in another case is a name of its own',
    'packages/core/src/build/unique-names.ts',
    'this.taken.metBefore(unique.toLowerCase());',
    'this.taken.metBefore(unique);',
  ],
  // Server
  [
    'another workspace’s outlets',
    'apps/server/src/db/rows.ts',
    "if (scope === 'workspace') return { workspace_id: caller.workspace };",
    "if (scope === 'workspace') return {};",
  ],
  [
    'an acceptance drops that of another outlet',
    'apps/server/src/stages/ship/findings.ts',
    'and outlet is not distinct from $4 for update',
    'and ($4::text is null or $4 is not null) for update',
  ],
  [
    'other plans are not told of a shared list',
    'apps/server/src/stages/prune/shared-lists.ts',
    '      await tellOthers(change, list);\n',
    '',
  ],
  [
    'other plans are not told of an outlet',
    'apps/server/src/stages/ship/outlets.ts',
    '        await tellShippers(change, there.id);\n',
    '',
  ],
  [
    'a duplicate has no extras',
    'apps/server/src/stages/plans/service.ts',
    "if (tableOf(name).scope === 'plan' &&",
    "if (tableOf(name).scope === 'plan' && name !== 'extras' &&",
  ],
  [
    'an earlier report stands where a later one speaks',
    'packages/core/src/learn/fact-table.ts',
    'else for (const campaign of of) this.last[start + campaign] = nth;',
    'else for (const campaign of of) this.last[start + campaign] = Math.max(0, Math.min(nth, this.last[start + campaign] ?? nth));',
  ],
  [
    'a mean of means',
    'packages/core/src/learn/group-sums.ts',
    '(first[row] as number) * (second[row] as number)',
    '(first[row] as number)',
  ],
  [
    'a dropped await',
    'apps/server/src/stages/ship/findings.ts',
    "    await change.remove(\n      'accepted_findings'",
    "    change.remove(\n      'accepted_findings'",
  ],
  [
    'an update outside of its transaction',
    'apps/server/src/plan/change/change.ts',
    'await execute(this.database, sql, bind, { transaction: this.transaction });',
    'await execute(this.database, sql, bind);',
  ],
  [
    'the door to a plan stands open',
    'apps/server/src/http/app.ts',
    "  app.use('/api/plans/:plan', ofThisWorkspace);\n",
    '',
  ],
  [
    'what is undone leaves blocked keywords as they were',
    'apps/server/src/stages/plans/step-back.ts',
    'if (concerned) await refreshBlocks(change);',
    '',
  ],
  [
    'a campaign with no budget passes',
    'apps/server/src/stages/ship/plan-checks.ts',
    "if (campaign.daily_budget <= 0) say('no-budget');",
    "if (campaign.daily_budget < 0) say('no-budget');",
  ],
  [
    'what a sheet lacks is paused unasked',
    'apps/server/src/stages/ship/read-back/take-job.ts',
    "${this.options.missing ? '' : `and change <> 'missing'`}",
    '',
  ],
  [
    'a column that is not logged',
    'apps/server/src/plan/change/collections.ts',
    'columnsOf(table, ({ isAside }) => !isAside)',
    "columnsOf(table, ({ isAside }, column) => !isAside && column !== 'cut')",
  ],
  [
    'no rebuild behind a change',
    'apps/server/src/plan/change/in-change.ts',
    '  await enqueueRebuild(caller, transaction);\n',
    '',
  ],
  [
    'a look through the plan is remembered whatever addresses answered',
    'apps/server/src/stages/ship/check-job.ts',
    'chosen ? { ...plan, asked: null } : plan',
    '{ ...plan, asked: null }',
  ],
  // Workers
  [
    'a cache that does not know the outlet',
    'apps/web/src/pool/pattern-fits.ts',
    '      input.outlet.key,\n      form,\n    ]);',
    '    ]);',
  ],
  ['a cache that does not know what is placed by hand', 'apps/web/src/pool/building.ts', 'sort.placed', '0'],
  [
    'what is removed stays in the pool',
    'apps/web/src/pool/pool-shown.ts',
    'if (!gone.has(id) && !changed.has(id)) picks.push',
    'if (!changed.has(id)) picks.push',
  ],
  // Screens and the kit
  [
    'Shift selects one row short',
    'apps/web/src/kit/table/selection.ts',
    'at <= last; at++',
    'at < last; at++',
  ],
  [
    'sorted the other way round, as one hears it',
    'apps/web/src/kit/table/Heading.tsx',
    "sort.down ? 'descending' : 'ascending'",
    "sort.down ? 'ascending' : 'descending'",
  ],
  [
    'Escape is dead in a menu',
    'apps/web/src/kit/Menu.tsx',
    "else if (event.key === 'Escape') {",
    "else if (event.key === 'Cancel') {",
  ],
  [
    'a brush is one bar short',
    'apps/web/src/stages/gather/SearchesHistogram.tsx',
    'const last = inside.at(-1);',
    'const last = inside.at(-2);',
  ],
  [
    'ads are not fetched again when the plan was built',
    'packages/contracts/src/stages/write.ts',
    "  path: '/api/plans/:plan/ads',\n  access: 'read',\n  reads: ['plan', 'built'],",
    "  path: '/api/plans/:plan/ads',\n  access: 'read',\n  reads: ['plan'],",
  ],
  [
    'a field forgets what is typed while an answer is awaited',
    'apps/web/src/kit/use-entry.ts',
    "      type('');\n      const isTaken = await adding.current(text).catch(() => false);\n",
    "      const isTaken = await adding.current(text).catch(() => false);\n      type('');\n",
  ],
].map(([name, file, find, put]) => ({ name, file, find, put }));
