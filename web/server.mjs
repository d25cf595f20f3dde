/** The web server: Next behind a door that turns away what Next would stumble over. */
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import next from 'next';

const port = Number(process.env.PORT);
const hostname = '127.0.0.1';
const dev = process.env.NODE_ENV === 'development';
const METHODS = ['GET', 'HEAD', 'POST', 'PATCH', 'DELETE', 'OPTIONS'];
/** More than a browser has open at once, by far; the rest waits. */
const CONNECTIONS = 512;

const app = next({ dev, dir: fileURLToPath(new URL('.', import.meta.url)), hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const upgrade = app.getUpgradeHandler();

/** What is wrong with the form of a request; null when nothing is. */
function faultOf({ method, url }) {
  if (!METHODS.includes(method)) return [405, 'This method means nothing here.'];
  if (!url.startsWith('/')) return [400, 'The address must be a path.'];
  try {
    decodeURIComponent(url);
    return null;
  } catch {
    return [400, 'The address is not well-formed.'];
  }
}

const server = createServer((request, response) => {
  const fault = faultOf(request);
  if (!fault) return void handle(request, response);
  const [status, detail] = fault;
  response.writeHead(status, {
    'Content-Type': 'application/problem+json',
    'X-Content-Type-Options': 'nosniff',
    'Content-Security-Policy': "default-src 'none'",
    Connection: 'close',
  });
  response.end(JSON.stringify({ type: '/problems/invalid', title: 'invalid', status, detail }));
});
server.on('upgrade', (request, socket, head) => void upgrade(request, socket, head));
server.maxConnections = CONNECTIONS;
server.keepAliveTimeout = 5000;
server.listen(port, hostname);
process.once('SIGTERM', () => process.exit(0));
