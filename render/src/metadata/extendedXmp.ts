/** XMP that is too long for one segment of a JPEG: the rest goes in segments of its own (XMP Specification Part 3, section 1.1.3.1). */
import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';

/** Bytes of a packet in its one segment, and of a part in a further one. */
const LONGEST = 65502;
const PART = 65400;
const EXTENSION = Buffer.from('http://ns.adobe.com/xmp/extension/\0', 'latin1');

/** A packet for the one segment, and what does not fit there, under the name that the packet calls it by. */
export interface SplitXmp {
  readonly main: Buffer;
  readonly rest: { readonly guid: string; readonly bytes: Buffer } | null;
}

/** @param rights the packet that is read also by those who know nothing of further segments; null: it says nothing */
export function splitXmp(xmp: Buffer, rights: string | null): SplitXmp {
  if (xmp.length <= LONGEST) return { main: xmp, rest: null };
  const guid = createHash('md5').update(xmp).digest('hex').toUpperCase();
  const note = `<rdf:Description rdf:about="" xmlns:xmpNote="http://ns.adobe.com/xmp/note/" xmpNote:HasExtendedXMP="${guid}"/>`;
  const empty =
    '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"></rdf:RDF></x:xmpmeta>';
  const of = (packet: string): Buffer => Buffer.from(packet.replace('</rdf:RDF>', () => `${note}</rdf:RDF>`));
  const main = of(rights ?? empty);
  return { main: main.length <= LONGEST ? main : of(empty), rest: { guid, bytes: xmp } };
}

/** Puts what did not fit into a JPEG file, behind its other segments of applications. @throws RangeError for what is no JPEG */
export async function putExtendedXmp(path: string, { guid, bytes }: NonNullable<SplitXmp['rest']>): Promise<void> {
  const at = await endOfApplications(path);
  const segments: Buffer[] = [];
  for (let from = 0; from < bytes.length; from += PART) {
    const part = bytes.subarray(from, from + PART);
    const head = Buffer.alloc(4 + EXTENSION.length + 32 + 8);
    head.writeUInt16BE(0xffe1, 0);
    head.writeUInt16BE(head.length - 2 + part.length, 2);
    EXTENSION.copy(head, 4);
    head.write(guid, 4 + EXTENSION.length, 'latin1');
    head.writeUInt32BE(bytes.length, head.length - 8);
    head.writeUInt32BE(from, head.length - 4);
    segments.push(head, part);
  }
  const longer = `${path}-extended`;
  await pipeline(async function* () {
    yield* createReadStream(path, { end: at - 1 });
    yield* segments;
    yield* createReadStream(path, { start: at });
  }, createWriteStream(longer));
  await rename(longer, path);
}

async function endOfApplications(path: string): Promise<number> {
  const file = await open(path);
  try {
    const head = Buffer.alloc(4);
    const read = async (at: number): Promise<number> => (await file.read(head, 0, 4, at)).bytesRead;
    if ((await read(0)) < 4 || head.readUInt16BE(0) !== 0xffd8) throw new RangeError('This is no JPEG file');
    let at = 2;
    while ((await read(at)) === 4 && head[0] === 0xff && head[1]! >= 0xe0 && head[1]! <= 0xef) at += 2 + head.readUInt16BE(2);
    return at;
  } finally {
    await file.close();
  }
}
