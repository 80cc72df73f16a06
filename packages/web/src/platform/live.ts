import { useQueryCache } from '@pinia/colada';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { io, type Socket } from 'socket.io-client';
import { ref } from 'vue';

export interface PresentPerson {
  id: string;
  name: string;
  initials: string;
  colour: string;
}
interface Change {
  projectId: string | null;
  subjectType: string;
}

/** What somebody does at this moment: told to whoever is there, kept nowhere. */
export interface Momentary {
  personId: string;
  data: unknown;
}

/** Which lists a change of a thing touches, where they are not called as the thing. */
const QUERIES_OF: Record<string, string[]> = {
  version: ['container', 'folder'],
  container: ['container', 'folder'],
  role: ['person'],
  team: ['person', 'folder'],
  federation: ['federation', 'container'],
  // Rules say how many clashes they have.
  'clash rule': ['clash rule', 'clash run'],
};

/** Changes of others: queries about what changed are asked again. */
export const useLive = defineStore('live', () => {
  const cache = useQueryCache();
  const present = ref<PresentPerson[]>([]);
  const connected = ref(true);
  let socket: Socket | undefined;
  let entered = '';
  const waiting = new Set<string>();
  const listeners = new Set<(said: Momentary) => void>();

  const refresh = useDebounceFn(
    () => {
      const keys = [...waiting].map((key) => JSON.parse(key) as string[]);
      waiting.clear();
      for (const key of keys) void cache.invalidateQueries({ key });
    },
    150,
    { maxWait: 1000 },
  );

  function onChange({ projectId, subjectType }: Change): void {
    const kinds = QUERIES_OF[subjectType] ?? [subjectType];
    if (subjectType === 'notice') waiting.add(JSON.stringify(['notices']));
    if (projectId)
      for (const part of [...kinds, 'project', 'related', 'history']) waiting.add(JSON.stringify([projectId, part]));
    waiting.add(JSON.stringify(['projects']));
    void refresh();
  }

  /** Whoever was not let in because something failed asks again, until they are in or have gone elsewhere. */
  async function enterProject(projectId: string): Promise<void> {
    if (!projectId) return;
    for (let wait = 500; socket?.connected && entered === projectId; wait = Math.min(wait * 2, 10_000)) {
      const answer = (await socket
        .timeout(10_000)
        .emitWithAck('enter', projectId)
        .catch(() => false)) as boolean;
      if (answer) return;
      await new Promise((resolve) => setTimeout(resolve, wait));
    }
  }

  function connect(): Socket {
    if (socket) return socket;
    socket = io({ path: '/api/live', transports: ['websocket'] });
    socket.on('connect', () => {
      // Whatever happened while we were away is asked for anew.
      if (!connected.value) void cache.invalidateQueries();
      connected.value = true;
      void enterProject(entered);
    });
    socket.on('disconnect', (reason) => {
      connected.value = false;
      // The server hangs up when our rights have changed: with the next connection the new ones hold.
      if (reason === 'io server disconnect') socket!.connect();
    });
    socket.on('change', onChange);
    socket.on('momentary', (said: Momentary) => listeners.forEach((listener) => listener(said)));
    socket.on('presence', (people: PresentPerson[]) => void (present.value = people));
    return socket;
  }

  return {
    present,
    connected,
    enter(projectId: string): void {
      if (entered === projectId) return;
      entered = projectId;
      present.value = [];
      if (connect().connected) void enterProject(projectId);
    },
    /** At most 2 kB; what is too large or too often is not passed on. */
    tellMomentary(data: unknown): void {
      socket?.volatile.emit('momentary', data);
    },
    /** Answers how to stop listening. */
    onMomentary(listener: (said: Momentary) => void): () => void {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    leave(): void {
      socket?.disconnect();
      socket = undefined;
      entered = '';
      connected.value = true;
    },
  };
});
