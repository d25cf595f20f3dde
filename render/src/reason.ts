import { Problem } from '@umbo/core/base';

/** What went wrong, in words for the person who waits. */
export function reasonOf(error: unknown): string {
  if (error instanceof Problem) return error.message;
  const { code, message } = error as { code?: string; message?: string };
  if (code === 'ENOSPC' || /No space left/.test(message ?? ''))
    return 'The disk that Umbo keeps its pixels on is full. Make room and try again.';
  // Paths and places in files are for the log.
  const words = code || /[/\\]/.test(message ?? '') ? 'something went wrong with its files' : (message ?? String(error));
  return `Umbo could not do this: ${words}${/[.!?]$/.test(words) ? '' : '.'} Try again.`;
}
