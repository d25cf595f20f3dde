'use client';
import { saveAs } from 'file-saver';

/** Hands a text to the browser as a file. */
export const saveFile = (name: string, text: string, type: string): void => saveAs(new Blob([text], { type }), name);
