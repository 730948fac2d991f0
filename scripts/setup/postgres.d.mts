type Options = {
  settings?: readonly string[];
  port?: number;
  /** The megabytes that are free where a folder is. */
  free?: (folder: string) => number;
};
export type Postgres = {
  url: string;
  address: (database: string) => string;
  port: number;
  pid: number;
  /** The folder of PostgreSQL's own programs. */
  bin: string;
  exited: Promise<string>;
  stop: () => void;
};
export function startPostgres(folder: string, options?: Options): Promise<Postgres>;

/** PostgreSQL's own folder of programs; null where there is none. */
export function programsHere(): string | null;
