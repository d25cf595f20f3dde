export interface Stack {
  base: string;
  url: string;
  database: { pid: () => number | null; start: () => Promise<string>; stop: () => Promise<void> } | null;
  close: () => Promise<void>;
  startWeb: () => Promise<void>;
  startRender: () => void;
  pid: (name: 'web' | 'render') => number | undefined;
}
export function startStack(options: {
  data: string;
  port: number;
  databaseUrl?: string;
  demo?: boolean;
  dev?: boolean;
  quiet?: boolean;
  onExit?: (name: string) => void;
}): Promise<Stack>;
