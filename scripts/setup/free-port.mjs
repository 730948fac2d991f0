import { once } from 'node:events';
import { createServer } from 'node:net';

/** A port of this machine that nobody listens on. */
export async function freePort() {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address();
  server.close();
  await once(server, 'close');
  return port;
}
