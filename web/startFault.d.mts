/** One plain sentence, with what to do, for whoever starts the application. */
export function startFault(fault: unknown): string;
