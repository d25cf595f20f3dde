export function isAlive(pid: number): boolean;
export function takeFolder(folder: string, facts: object): () => void;
