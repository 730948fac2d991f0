/** The project's folder. */
export const root: string;
