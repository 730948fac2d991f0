/** The time zones by whose clock an account or a schedule can go, UTC first. */
export const timeZones = ['UTC', ...Intl.supportedValuesOf('timeZone').filter((zone) => zone !== 'UTC')];
