import type { Request, Response } from 'express';
import type { DatabaseSessionStore } from '../store/session-store.js';

/** Streams that one session may have open; a browser opens one for each desk. The oldest gives way. */
const PER_SESSION = 6;
/** Milliseconds between two signs of life, at which it is also seen whether the session still is. */
const PULSE = 20_000;

interface Stream {
  readonly sid: string;
  readonly staffId: string;
  readonly end: () => void;
}

/** Open streams of news. They end with the session that opened them. */
export class Streams {
  private readonly open = new Set<Stream>();

  constructor(private readonly sessions: DatabaseSessionStore) {}

  /** Begins a stream of server-sent events (HTML, 9.2). @returns what sends one, and is told when the stream has ended. */
  begin(request: Request, response: Response, ended: () => void): (data: unknown) => void {
    const { sessionID: sid, session } = request;
    const own = [...this.open].filter((stream) => stream.sid === sid);
    for (const stream of own.slice(0, Math.max(0, own.length - PER_SESSION + 1))) stream.end();
    response.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      'X-Accel-Buffering': 'no',
    });
    response.flushHeaders();
    response.write('retry: 2000\n\n');
    const pulse = setInterval(() => void this.pulse(sid, response, stream), PULSE);
    const stream: Stream = { sid, staffId: session.staffId ?? '', end: () => response.end() };
    this.open.add(stream);
    response.on('close', () => {
      clearInterval(pulse);
      this.open.delete(stream);
      ended();
    });
    return (data) => response.write(`data: ${JSON.stringify(data)}\n\n`);
  }

  /** Ends the streams of a session. */
  endSession(sid: string): void {
    for (const stream of this.open) if (stream.sid === sid) stream.end();
  }

  /** Ends the streams of all sessions of a person. */
  endStaff(staffId: string): void {
    for (const stream of this.open) if (stream.staffId === staffId) stream.end();
  }

  private async pulse(sid: string, response: Response, stream: Stream): Promise<void> {
    const alive = await this.sessions.isAlive(sid).catch(() => true);
    if (alive) response.write(': still here\n\n');
    else stream.end();
  }
}
