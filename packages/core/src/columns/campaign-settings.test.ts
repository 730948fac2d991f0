import { expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { type CampaignFacts, campaignSettings, clock, dayWords } from './index.ts';

const facts: CampaignFacts = {
  networks: { search: true, partners: false, display: true },
  locations: [
    { name: 'Eastmere', level: 'region' },
    { name: 'Wrenport', level: 'town' },
  ],
  locationsOut: [{ name: 'WR1 4', level: 'postal' }],
  presence: 'interested',
  languages: ['English', 'Welsh'],
  schedule: [
    { days: ['mon', 'tue', 'wed', 'thu', 'fri'], from: 540, to: 1_050 },
    { days: ['sat'], from: 0, to: 1_440 },
  ],
  devices: { desktop: 0, phone: 2_000, tablet: -1_050 },
  delivery: 'fast',
  strategy: 'target-cost',
  targetCost: asMicros(12_500_000),
  targetReturn: 45_000,
  conversions: ['Booking', 'Call'],
  starts: '2027-03-01',
  ends: null,
  rotation: 'even',
  sitesOut: ['games.example', 'songs.example'],
  goal: 'calls',
  category: 'Boat hire',
  adults: true,
};

test('the settings of a campaign, each as one cell', () => {
  expect(campaignSettings(facts)).toEqual({
    networks: 'Search; Display',
    locations: 'Eastmere (region); Wrenport (town)',
    'locations-out': 'WR1 4 (postal)',
    presence: 'People interested in',
    languages: 'English; Welsh',
    schedule: 'Mon-Fri 9:00-17:30; Sat 0:00-24:00',
    devices: 'Phone +20%; Tablet -10.5%',
    delivery: 'As fast as it comes',
    strategy: 'Target cost per conversion',
    'target-cost': '12.5',
    'target-return': '450%',
    conversions: 'Booking; Call',
    starts: '2027-03-01',
    ends: '',
    rotation: 'All ads alike',
    'sites-out': 'games.example; songs.example',
    goal: 'Calls',
    'site-kind': 'Boat hire',
    audience: 'Adults only',
  });
});

test.each([
  [['mon', 'tue', 'wed', 'thu', 'fri'], 'Mon-Fri'],
  [['sat', 'sun'], 'Sat+Sun'],
  [['fri', 'mon', 'wed'], 'Mon+Wed+Fri'],
  [['mon', 'tue', 'wed', 'sun'], 'Mon-Wed+Sun'],
] as const)('%j are %s', (days, words) => expect(dayWords(days)).toBe(words));

test.each([
  [0, '0:00'],
  [545, '9:05'],
  [1_440, '24:00'],
])('%i minutes are %s', (minutes, words) => expect(clock(minutes)).toBe(words));
