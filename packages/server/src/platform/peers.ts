/** Web nodes of one installation, joined with each other: what is only momentary goes between them without a write to the database. */
import { eq, lt, ne, sql } from 'drizzle-orm';
import { randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import type { IncomingMessage, Server as HttpServer } from 'node:http';
import type { Duplex } from 'node:stream';
import { WebSocket, WebSocketServer } from 'ws';
import type { Db } from './database.ts';
import { NODE_GONE_SECONDS } from './presence.ts';
import { nodes } from './schema.ts';

export interface PeerMessage {
  room: string;
  event: string;
  data: unknown;
  /** Connection that sent it. */
  except: string;
}

const PATH = '/api/peers';
const SEEN_EVERY_MS = 4000;
const MOST_BYTES = 16_000;

export class Peers {
  readonly nodeId = randomUUID();
  private readonly secret = randomBytes(32).toString('base64url');
  private readonly incoming = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES });
  private readonly outgoing = new Map<string, WebSocket>();
  private timer: NodeJS.Timeout | undefined;

  constructor(
    server: HttpServer,
    private readonly db: Db,
    private readonly url: string,
    private readonly onError: (error: Error) => void,
    private readonly receive: (message: PeerMessage) => void,
  ) {
    server.on('upgrade', (request, socket, head) => this.admit(request, socket, head));
  }

  async open(): Promise<void> {
    await this.refresh();
    this.timer = setInterval(() => void this.refresh().catch(this.onError), SEEN_EVERY_MS);
  }

  private admit(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    if (request.url !== PATH) return;
    const shown = Buffer.from(request.headers.authorization ?? '');
    const wanted = Buffer.from(`Peer ${this.secret}`);
    if (shown.length !== wanted.length || !timingSafeEqual(shown, wanted)) {
      socket.end('HTTP/1.1 401 Unauthorized\r\n\r\n');
      return;
    }
    this.incoming.handleUpgrade(request, socket, head, (peer) => {
      peer.on('error', this.onError);
      peer.on('message', (bytes) => this.receive(JSON.parse(String(bytes)) as PeerMessage));
    });
  }

  /** Says that this node is alive, forgets those that are not, and joins those that are new. */
  private async refresh(): Promise<void> {
    const { nodeId: id, url, secret, db } = this;
    const seenAt = sql`now()`;
    await db
      .insert(nodes)
      .values({ id, url, secret, seenAt })
      .onConflictDoUpdate({ target: nodes.id, set: { seenAt } });
    await db.delete(nodes).where(lt(nodes.seenAt, sql`now() - make_interval(secs => ${NODE_GONE_SECONDS})`));
    const others = await db.select().from(nodes).where(ne(nodes.id, id));
    const known = new Set(others.map((other) => other.id));
    for (const [other, socket] of this.outgoing) if (!known.has(other)) socket.terminate();
    for (const other of others) if (!this.outgoing.has(other.id)) this.join(other);
  }

  private join({ id, url, secret }: { id: string; url: string; secret: string }): void {
    const socket = new WebSocket(url.replace(/^http/, 'ws') + PATH, { headers: { authorization: `Peer ${secret}` } });
    this.outgoing.set(id, socket);
    // The next refresh joins it again, if it is still there.
    socket.on('error', () => socket.terminate());
    socket.on('close', () => this.outgoing.delete(id));
  }

  /** To all other nodes; what cannot go out at once is left out. */
  send(message: PeerMessage): void {
    const text = JSON.stringify(message);
    for (const socket of this.outgoing.values())
      if (socket.readyState === WebSocket.OPEN && socket.bufferedAmount < MOST_BYTES) socket.send(text);
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    for (const socket of this.outgoing.values()) socket.terminate();
    for (const socket of this.incoming.clients) socket.terminate();
    await this.db.delete(nodes).where(eq(nodes.id, this.nodeId));
  }
}
