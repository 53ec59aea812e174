import { Agent, createServer, request as send, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo, Socket } from 'node:net';

/**
 * What can happen to a request on its way: it never arrives; its answer never does, though it was done; it comes late; it is done twice;
 * its answer is cut off in the middle.
 */
export type Fault = 'drop' | 'lose' | 'delay' | 'repeat' | 'cut';

export interface FaultProxy {
  url: string;
  /** How often each happened. */
  counts: Record<Fault | 'none', number>;
  /** Where requests go from now on. */
  target: string;
  /** Which fault befalls a request; null for none. */
  fault: (method: string, path: string) => Fault | null;
  close: () => Promise<void>;
}

const LATE = 120;

/** A server on loopback that passes everything on, with faults. */
export async function startFaultProxy(target: string): Promise<FaultProxy> {
  const agent = new Agent({ keepAlive: false });
  const sockets = new Set<Socket>();
  const proxy: FaultProxy = {
    url: '',
    counts: { drop: 0, lose: 0, delay: 0, repeat: 0, cut: 0, none: 0 },
    target,
    fault: () => null,
    close: () =>
      new Promise((resolve) => {
        for (const socket of sockets) socket.destroy();
        server.close(() => resolve());
      }),
  };
  const pass = (request: IncomingMessage, body: Buffer): Promise<IncomingMessage> =>
    new Promise((resolve, reject) => {
      const { hostname, port } = new URL(proxy.target);
      const options = {
        hostname,
        port,
        method: request.method,
        path: request.url,
        headers: { ...request.headers, 'content-length': body.length },
      };
      const onward = send({ ...options, agent }, resolve);
      onward.on('error', reject);
      onward.end(body);
    });
  const whole = async (stream: IncomingMessage): Promise<Buffer> => {
    const chunks: Buffer[] = [];
    for await (const chunk of stream) chunks.push(chunk as Buffer);
    return Buffer.concat(chunks);
  };
  const handle = async (request: IncomingMessage, response: ServerResponse) => {
    const fault = proxy.fault(request.method!, request.url!);
    proxy.counts[fault ?? 'none']++;
    const body = await whole(request);
    if (fault === 'drop') return void request.socket.destroy();
    if (fault === 'delay') await new Promise((resolve) => setTimeout(resolve, LATE));
    let answer = await pass(request, body);
    if (fault === 'repeat') {
      await whole(answer);
      answer = await pass(request, body);
    }
    if (fault === 'lose') {
      await whole(answer);
      return void request.socket.destroy();
    }
    response.writeHead(answer.statusCode!, answer.headers);
    if (fault !== 'cut') {
      // Events go through as they come.
      answer.pipe(response);
      response.on('close', () => answer.destroy());
      return;
    }
    const bytes = await whole(answer);
    response.write(bytes.subarray(0, bytes.length >> 1), () => request.socket.destroy());
  };
  const server = createServer((request, response) => {
    handle(request, response).catch(() => request.socket.destroy());
  });
  server.on('connection', (socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    socket.on('error', () => undefined);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  proxy.url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return proxy;
}

/** A generator of numbers from 0 to 1 by a seed (mulberry32), so that what failed can be seen again. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Whether the long form runs: `npm run trust`. */
export const LONG = process.env.ITCHKIT_TRUST === 'long';
export const SEED = Number(process.env.ITCHKIT_SEED_OF_TRUST ?? 20261128);
