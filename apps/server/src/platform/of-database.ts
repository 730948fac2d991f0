import type { Sequelize } from 'sequelize';

/** What a process remembers of a database, made when it is first asked for: a process of tests has several. */
export function ofDatabase<T>(make: () => T): (database: Sequelize) => T {
  const made = new WeakMap<Sequelize, T>();
  return (database) => {
    const known = made.get(database) ?? make();
    made.set(database, known);
    return known;
  };
}
