import type { Request, RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { Sequelize } from 'sequelize';
import { select } from '../db/connect.ts';
import { jobSeconds } from '../platform/jobs/job-seconds.ts';
import type { EventHub } from './events.ts';

const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

type Pool = { size: number; available: number; using: number; waiting: number };

/** What a server does, as Prometheus reads it at `/metrics`: requests, jobs, the queue, connections, windows, memory. */
export class Metrics {
  private readonly registry = new Registry();
  private readonly requests = new Histogram({
    name: 'sprig_request_seconds',
    help: 'How long requests took, by method, route and status.',
    labelNames: ['method', 'route', 'status'],
    buckets: SECONDS,
    registers: [this.registry],
  });

  /** @param asked the connections of requests */
  constructor(database: Sequelize, asked: Sequelize, events: EventHub) {
    collectDefaultMetrics({ register: this.registry });
    this.registry.registerMetric(jobSeconds);
    const pool = (asked.connectionManager as unknown as { pool: Pool }).pool;
    const gauge = (name: string, help: string, collect: (gauge: Gauge) => void | Promise<void>) =>
      new Gauge({
        name,
        help,
        registers: [this.registry],
        collect: function () {
          return collect(this);
        },
      });
    gauge('sprig_pool_connections_used', 'Database connections in use by requests.', (one) =>
      one.set(pool.using),
    );
    gauge('sprig_pool_requests_waiting', 'Requests that wait for a connection.', (one) =>
      one.set(pool.waiting),
    );
    gauge('sprig_windows_open', 'Windows that hear of changes.', (one) => one.set(events.state.windows));
    new Gauge({
      name: 'sprig_jobs',
      help: 'Jobs that wait or run, by kind.',
      labelNames: ['kind', 'status'],
      registers: [this.registry],
      async collect() {
        this.reset();
        const rows = await select<{ kind: string; status: string; count: number }>(
          database,
          `select kind, status, count(*)::int as count from jobs where status in ('queued', 'running') group by 1, 2`,
        );
        for (const { kind, status, count } of rows) this.set({ kind, status }, count);
      },
    });
    gauge(
      'sprig_queue_oldest_seconds',
      'How long the job has waited that has waited longest.',
      async (one) => {
        const [row] = await select<{ age: number }>(
          database,
          `select coalesce(extract(epoch from now() - min(created_at)), 0)::float as age from jobs where status = 'queued'`,
        );
        one.set(row?.age ?? 0);
      },
    );
  }

  /** Notes how long each request took. */
  readonly watch: RequestHandler = (request, response, next) => {
    const start = performance.now();
    response.on('close', () => {
      const labels = { method: request.method, route: routeOf(request), status: response.statusCode };
      this.requests.observe(labels, (performance.now() - start) / 1_000);
    });
    next();
  };

  readonly answer: RequestHandler = async (_request, response) => {
    response.type(this.registry.contentType).send(await this.registry.metrics());
  };
}

/** As it is written in the code, so that numbers of plans make no labels of their own. */
const routeOf = ({ route, baseUrl }: Request): string =>
  typeof route?.path === 'string' ? `${baseUrl}${route.path}` : 'none';
