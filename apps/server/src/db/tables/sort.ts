import type { FunnelStage } from '@sprig/core/text';
import { documents, holding, int, json, optional, table, text } from './define.ts';

export const themes = table('themes', 'input', {
  key: ['id'],
  columns: {
    id: int,
    parent_id: optional(int),
    position: int,
    body: json,
  },
});

export const placedByHand = table('placed_by_hand', 'input', {
  key: ['keyword_id'],
  columns: {
    keyword_id: int,
    theme_id: optional(int),
    stage: optional(holding<FunnelStage>(text)),
  },
  refers: { keyword_id: 'keywords', theme_id: 'themes' },
});

export const sortSettings = documents('sort_settings');

export const sortSeen = table('sort_seen', 'record', {
  key: ['actor_id'],
  columns: {
    actor_id: int,
    keyword_id: int,
  },
  refers: { actor_id: 'actors' },
});
