import type { Browser, Page } from 'playwright-core';

export function launch(): Promise<Browser>;
export function compare(page: Page, how: string): Promise<void>;
export function more(page: Page, what: string): Promise<void>;
export function maskShown(page: Page, how: string): Promise<void>;
