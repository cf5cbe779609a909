import type { IncomingMessage, ServerResponse } from 'node:http';

/** Whether a Host header names this machine. */
export function isLocal(host: string | null | undefined): boolean;
/** Headers of every answer. */
export const HEADERS: Readonly<Record<string, string>>;
type Listener = (request: IncomingMessage, response: ServerResponse) => void;
/** A listener in front of another one. */
export function guarded(listener: Listener): Listener;
