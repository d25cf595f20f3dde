import 'server-only';
import { Problem } from '@umbo/data';
import { notFound } from 'next/navigation';
import { db } from './server';

/** What a page shows; what does not exist becomes the not-found page. */
export async function load<T>(work: () => Promise<T>): Promise<T> {
  db(); // binds the models
  try {
    return await work();
  } catch (error) {
    if (error instanceof Problem && error.kind === 'not-found') notFound();
    throw error;
  }
}

/** An id from a path. */
export function pageNumber(text: string): number {
  if (!/^\d{1,9}$/.test(text)) notFound();
  return Number(text);
}
