import type { AdField } from '@sprig/core/write';

export const fieldNames: Record<AdField, string> = {
  headline1: 'Headline 1',
  headline2: 'Headline 2',
  headline3: 'Headline 3',
  description1: 'Description 1',
  description2: 'Description 2',
  path1: 'Path 1',
  path2: 'Path 2',
};
