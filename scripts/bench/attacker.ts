/** Sends the same request again and again, as fast as it is answered, in a process of its own; ends with its parent. */
import { io } from 'socket.io-client';

export interface Attack {
  url: string;
  method: string;
  headers: Record<string, string>;
  body?: string;
  /** Messages on a socket instead: `event` with `value`. */
  message?: { event: string; value: string };
}

process.on('disconnect', () => process.exit(0));
process.once('message', (attack: Attack) => void (attack.message ? flood(attack) : repeat(attack)));

async function repeat({ url, method, headers, body }: Attack): Promise<void> {
  for (;;) {
    try {
      const answer = await fetch(url, { method, headers, ...(body !== undefined && { body }) });
      await answer.arrayBuffer();
    } catch (error) {
      // Hung up on in the middle: that is how an attacker is answered, too.
      if (!(error instanceof TypeError)) throw error;
    }
  }
}

function flood({ url, headers, message }: Attack): void {
  const socket = io(url, { path: '/api/live', transports: ['websocket'], extraHeaders: headers });
  const next = (): void => {
    if (socket.connected) socket.emit(message!.event, message!.value);
    setImmediate(next);
  };
  next();
}
