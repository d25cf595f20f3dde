import type { Browser } from 'playwright-core';

export function launch(): Promise<Browser>;
