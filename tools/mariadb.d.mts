export function freePort(wanted?: number): Promise<number>;
export function serverInstalled(): boolean;
export function mariadb(dataRoot: string): { start: () => Promise<string>; stop: () => Promise<void>; pid: () => number | null };
