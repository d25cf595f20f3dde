import 'server-only';
import { headers } from 'next/headers';
import { Problem } from '@umbo/core/base';
import { patiently } from '@umbo/data';
import { notFound } from 'next/navigation';
import { hostIsKnown } from './origin';
import { db } from './server';

/** What a page shows; what does not exist becomes the not-found page. */
export async function load<T>(work: () => Promise<T>): Promise<T> {
  // Again, whatever the proxy let through: pages hold whole edits.
  if (!hostIsKnown(await headers())) notFound();
  db(); // binds the models
  try {
    return await patiently(work);
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
