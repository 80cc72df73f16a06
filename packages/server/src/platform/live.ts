import { createAdapter } from '@socket.io/postgres-adapter';
import type { Server as HttpServer } from 'node:http';
import type pg from 'pg';
import { Server, type Socket } from 'socket.io';

/** What clients are told: that a thing changed, never what is in it; they ask for it again, with their own rights. */
export interface LiveEvent {
  projectId: string | null;
  subjectType: string;
  subjectId: string;
  verb: string;
  /** Only these people may know; everybody in the project when absent. */
  teamId?: string | null;
  personIds?: string[];
}

export interface LivePerson {
  id: string;
  name: string;
  initials: string;
  colour: string;
}

/** Answers who a socket belongs to, and whether that person may enter a project. */
export interface LiveGate {
  personOf(cookieHeader: string | undefined, token: string | undefined): Promise<LivePerson | undefined>;
  mayEnter(personId: string, projectId: string): Promise<{ teamId: string | null; seesAllTeams: boolean } | undefined>;
}

const SILENT: Pick<Live, 'announce' | 'present' | 'close'> = {
  announce: () => undefined,
  present: async () => [],
  close: async () => undefined,
};

export class Live {
  static silent = SILENT;
  private readonly io: Server;

  constructor(server: HttpServer, pool: pg.Pool, gate: LiveGate, onError: (error: Error) => void) {
    this.io = new Server(server, { path: '/api/live', serveClient: false, maxHttpBufferSize: 100_000 });
    this.io.adapter(createAdapter(pool, { errorHandler: onError }));
    this.io.use((socket, next) => {
      const token = (socket.handshake.auth as { token?: string }).token;
      gate.personOf(socket.request.headers.cookie, token).then(
        (person) => {
          socket.data.person = person;
          next(person ? undefined : new Error('Sign in first'));
        },
        () => next(new Error('The server cannot check who you are right now')),
      );
    });
    this.io.on('connection', (socket) => this.greet(socket, gate));
  }

  announce(event: LiveEvent): void {
    const { projectId, subjectType, subjectId, verb, teamId, personIds } = event;
    const rooms = personIds
      ? personIds.map((id) => `person:${id}`)
      : teamId
        ? [`team:${teamId}`, `project:${projectId}:all-teams`]
        : [`project:${projectId}`];
    if (rooms.length) this.io.to(rooms).emit('change', { projectId, subjectType, subjectId, verb });
    // Whose team, rights or membership changed connects anew, and hears from then on what they may hear then.
    if (subjectType === 'person') this.io.in(`person:${subjectId}`).disconnectSockets();
  }

  private greet(socket: Socket, gate: LiveGate): void {
    const person = socket.data.person as LivePerson;
    void socket.join(`person:${person.id}`);
    socket.on('enter', async (projectId: unknown) => {
      if (typeof projectId !== 'string' || !/^[0-9a-f-]{36}$/.test(projectId)) return;
      const entry = await gate.mayEnter(person.id, projectId).catch(() => undefined);
      if (!entry) return;
      for (const room of [...socket.rooms]) if (/^(?:project|team):/.test(room)) await this.leave(socket, room);
      await socket.join([`project:${projectId}`, ...(entry.teamId ? [`team:${entry.teamId}`] : [])]);
      if (entry.seesAllTeams) await socket.join(`project:${projectId}:all-teams`);
      await this.tellPresence(projectId);
    });
    socket.on('disconnecting', () => {
      const projects = [...socket.rooms].map((room) => /^project:([0-9a-f-]{36})$/.exec(room)?.[1]).filter(Boolean);
      setTimeout(() => projects.forEach((id) => void this.tellPresence(id!).catch(() => undefined)), 100);
    });
  }

  private async leave(socket: Socket, room: string): Promise<void> {
    await socket.leave(room);
    const projectId = /^project:([0-9a-f-]{36})$/.exec(room)?.[1];
    if (projectId) await this.tellPresence(projectId);
  }

  /** Who is in a project right now, on whichever node. */
  async present(projectId: string): Promise<LivePerson[]> {
    const sockets = await this.io.in(`project:${projectId}`).fetchSockets();
    const people = new Map(sockets.map(({ data }) => [(data.person as LivePerson).id, data.person as LivePerson]));
    return [...people.values()];
  }

  private async tellPresence(projectId: string): Promise<void> {
    this.io.to(`project:${projectId}`).emit('presence', await this.present(projectId));
  }

  async close(): Promise<void> {
    await this.io.close();
  }
}
