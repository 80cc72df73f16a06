import { createAdapter } from '@socket.io/postgres-adapter';
import type { IncomingHttpHeaders, Server as HttpServer } from 'node:http';
import { Server, type Socket } from 'socket.io';
import type { DatabaseHandle } from './database.ts';
import { Peers } from './peers.ts';
import { Presence, presentIn } from './presence.ts';

/** What clients are told: that some thing changed, never which one or what is in it; they ask again, with their own rights. */
export interface LiveEvent {
  projectId: string | null;
  subjectType: string;
  /** Only this team may know; everybody in the project when absent. */
  teamId?: string | null;
  /** Only these people may know. */
  personIds?: string[];
  /** Somebody whose team, rights or membership changed: they connect anew, and hear from then on what they may hear then. */
  connectsAnew?: string;
}

/** A person at the other end of a socket, and the session or token that they came by. */
export interface LiveCaller extends LivePerson {
  credential: string | null;
}

export interface LivePerson {
  id: string;
  name: string;
  initials: string;
  colour: string;
}

/** Answers who a socket belongs to, and whether that person may enter a project. */
export interface LiveGate {
  personOf(cookieHeader: string | undefined, token: string | undefined): Promise<LiveCaller | undefined>;
  /** Which of these sessions and tokens are good no longer. */
  ended(credentials: readonly string[]): Promise<string[]>;
  mayEnter(personId: string, projectId: string): Promise<{ teamId: string | null; seesAllTeams: boolean } | undefined>;
  people(ids: readonly string[]): Promise<LivePerson[]>;
}

export interface LiveSettings extends DatabaseHandle {
  gate: LiveGate;
  /** Where other nodes reach this one. */
  nodeUrl: string;
  /** Where people reach the installation. */
  publicUrl: string;
  onError: (error: Error) => void;
}

const UUID = /^[0-9a-f-]{36}$/;
/** Pointers and cameras: the newest is all that counts, and nobody misses one. */
const MOMENTARY_BYTES = 2000;
const MOMENTARY_A_SECOND = 40;
const PRESENCE_DELAY_MS = 100;
/** Everything that one connection sends. */
const MESSAGES_A_SECOND = 100;
const ENTRIES_A_SECOND = 5;
const MESSAGE_BYTES = 16_000;
/** Windows and devices of one person on this node. */
const CONNECTIONS_A_PERSON = 30;
const LOOK_FOR_ENDED_MS = 30_000;

/** Counts within the current second; says whether it is too much. */
function perSecond(most: number): () => boolean {
  let [second, count] = [0, 0];
  return () => {
    const now = Math.floor(Date.now() / 1000);
    if (now !== second) [second, count] = [now, 0];
    return ++count > most;
  };
}

export class Live {
  static silent: Pick<Live, 'announce' | 'end' | 'close'> = {
    announce: () => undefined,
    end: () => undefined,
    close: async () => undefined,
  };
  private readonly io: Server;
  private readonly peers: Peers;
  private readonly presence: Presence;

  constructor(
    server: HttpServer,
    private readonly settings: LiveSettings,
  ) {
    const { pool, db, gate, nodeUrl, publicUrl, onError } = settings;
    this.io = new Server(server, {
      path: '/api/live',
      serveClient: false,
      maxHttpBufferSize: MESSAGE_BYTES,
      allowRequest: ({ headers }, answer) => answer(null, isOwnPage(headers, publicUrl)),
    });
    this.io.adapter(createAdapter(pool, { errorHandler: onError }));
    this.peers = new Peers(server, db, nodeUrl, onError, ({ room, event, data, except }) => {
      this.io.local.to(room).except(except).volatile.emit(event, data);
    });
    this.presence = new Presence(db, this.peers.nodeId);
    this.io.use((socket, next) => {
      const token = (socket.handshake.auth as { token?: string }).token;
      gate.personOf(socket.request.headers.cookie, token).then(
        (person) => {
          if (!person) return next(new Error('Sign in first'));
          if ((this.io.of('/').adapter.rooms.get(`person:${person.id}`)?.size ?? 0) >= CONNECTIONS_A_PERSON)
            return next(new Error('Too many windows are open'));
          socket.data.person = person;
          next();
        },
        () => next(new Error('The server cannot check who you are right now')),
      );
    });
    this.io.on('connection', (socket) => this.greet(socket));
    this.looking = setInterval(() => void this.hangUpEnded().catch(onError), LOOK_FOR_ENDED_MS);
  }
  private readonly looking: NodeJS.Timeout;

  /** Hangs up whoever came by this session or token, on every node. */
  end(credential: string): void {
    this.io.in(credential).disconnectSockets(true);
  }

  /** What nobody told us of: sessions that grew too old, rows that were removed. */
  private async hangUpEnded(): Promise<void> {
    const held = new Set<string>();
    for (const { data } of this.io.of('/').sockets.values()) {
      const { credential } = data.person as LiveCaller;
      if (credential) held.add(credential);
    }
    if (!held.size) return;
    for (const credential of await this.settings.gate.ended([...held]))
      this.io.local.in(credential).disconnectSockets(true);
  }

  /** Ready when other nodes can find this one. */
  open(): Promise<void> {
    return this.peers.open();
  }

  announce({ projectId, subjectType, teamId, personIds, connectsAnew }: LiveEvent): void {
    const rooms = personIds
      ? personIds.map((id) => `person:${id}`)
      : teamId
        ? [`team:${teamId}`, `project:${projectId}:all-teams`]
        : [`project:${projectId}`];
    if (rooms.length) this.io.to(rooms).emit('change', { projectId, subjectType });
    if (connectsAnew) this.io.in(`person:${connectsAnew}`).disconnectSockets();
  }

  private greet(socket: Socket): void {
    const person = socket.data.person as LiveCaller;
    void socket.join([`person:${person.id}`, ...(person.credential ? [person.credential] : [])]);
    const tooMany = perSecond(MESSAGES_A_SECOND);
    socket.conn.on('packet', () => void (tooMany() && socket.disconnect(true)));
    const tooOften = perSecond(ENTRIES_A_SECOND);
    socket.on('enter', (projectId: unknown, answer?: (entered: boolean) => void) => {
      if (tooOften()) return;
      const answered = (entered: boolean): void => void (typeof answer === 'function' && answer(entered));
      this.enter(socket, person, projectId).then(answered, (error: Error) => {
        // Whoever asked hears that it failed, and asks again.
        this.settings.onError(error);
        answered(false);
      });
    });
    this.relayMomentary(socket, person);
    socket.on('disconnect', () => {
      const projectId = socket.data.projectId as string | undefined;
      if (!projectId) return;
      this.presence
        .leave(socket.id)
        .then(() => this.tellPresenceSoon(projectId))
        .catch(this.settings.onError);
    });
  }

  /** Answers whether the person is in the project from now on. */
  private async enter(socket: Socket, person: LivePerson, projectId: unknown): Promise<boolean> {
    if (typeof projectId !== 'string' || !UUID.test(projectId)) return false;
    const entry = await this.settings.gate.mayEnter(person.id, projectId);
    if (!entry) return false;
    const left = socket.data.projectId as string | undefined;
    for (const room of [...socket.rooms]) if (/^(?:project|team):/.test(room)) await socket.leave(room);
    await socket.join([`project:${projectId}`, ...(entry.teamId ? [`team:${entry.teamId}`] : [])]);
    if (entry.seesAllTeams) await socket.join(`project:${projectId}:all-teams`);
    socket.data.projectId = projectId;
    await this.presence.enter(socket.id, projectId, person.id);
    if (left && left !== projectId) this.tellPresenceSoon(left);
    await this.tellPresence(projectId);
    return true;
  }

  /** From node to node without a write to the database; what comes too fast or is too large is left out. */
  private relayMomentary(socket: Socket, person: LivePerson): void {
    const tooOften = perSecond(MOMENTARY_A_SECOND);
    socket.on('momentary', (data: unknown) => {
      const projectId = socket.data.projectId as string | undefined;
      if (!projectId || tooOften() || JSON.stringify(data ?? null).length > MOMENTARY_BYTES) return;
      const message = { personId: person.id, data };
      const room = `project:${projectId}`;
      socket.to(room).local.volatile.emit('momentary', message);
      this.peers.send({ room, event: 'momentary', data: message, except: socket.id });
    });
  }

  private tellPresenceSoon(projectId: string): void {
    setTimeout(() => void this.tellPresence(projectId).catch(this.settings.onError), PRESENCE_DELAY_MS).unref();
  }

  private async tellPresence(projectId: string): Promise<void> {
    const { db, gate } = this.settings;
    const ids = (await presentIn(db, [projectId])).get(projectId) ?? [];
    this.io.to(`project:${projectId}`).emit('presence', await gate.people(ids));
  }

  async close(): Promise<void> {
    clearInterval(this.looking);
    await this.peers.close();
    await this.io.close();
  }
}

/** A page of another origin must not listen with the cookie of whoever looks at it; programs name no origin. */
function isOwnPage({ origin, host }: IncomingHttpHeaders, publicUrl: string): boolean {
  if (!origin) return true;
  return origin === new URL(publicUrl).origin || origin.replace(/^https?:\/\//, '') === host;
}
