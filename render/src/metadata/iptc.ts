/** Texts of IPTC blocks (IPTC-NAA Information Interchange Model 4.2, record 2), which only JPEG files carry. */

/** What the datasets are in XMP ("IPTC Photo Metadata Standard"): property, and whether it is a list or has languages. */
export const IPTC_FIELDS = {
  5: ['dc:title', 'Alt'],
  25: ['dc:subject', 'Bag'],
  55: ['photoshop:DateCreated', 'text'],
  80: ['dc:creator', 'Seq'],
  85: ['photoshop:AuthorsPosition', 'text'],
  90: ['photoshop:City', 'text'],
  95: ['photoshop:State', 'text'],
  101: ['photoshop:Country', 'text'],
  105: ['photoshop:Headline', 'text'],
  110: ['photoshop:Credit', 'text'],
  115: ['photoshop:Source', 'text'],
  116: ['dc:rights', 'Alt'],
  120: ['dc:description', 'Alt'],
} as const;
export type IptcDataset = keyof typeof IPTC_FIELDS;

const RESOURCE = Buffer.from('8BIM', 'latin1');
const IIM = 0x0404;

/** Texts of one dataset that are read. */
const MOST = 1000;
/** Where something was made: sublocation is 92, the country's code 100. */
const PLACE = new Set([90, 92, 95, 100, 101]);

/** Where the datasets stand in a block: in a resource of a JPEG's segment, or by themselves; null: nowhere. */
function placeOfDatasets(block: Buffer): { from: number; to: number; sizeAt: number | null } | null {
  let at = block.indexOf(RESOURCE);
  while (at >= 0 && at + 12 <= block.length) {
    const id = block.readUInt16BE(at + 4);
    const name = block[at + 6]! + 1;
    const sizeAt = at + 6 + name + (name % 2);
    if (sizeAt + 4 > block.length) return null;
    const size = block.readUInt32BE(sizeAt);
    if (id === IIM) return { from: sizeAt + 4, to: Math.min(block.length, sizeAt + 4 + size), sizeAt };
    at = block.indexOf(RESOURCE, sizeAt + 4 + size);
  }
  return block[0] === 0x1c ? { from: 0, to: block.length, sizeAt: null } : null;
}

interface Dataset {
  record: number;
  dataset: number;
  /** All of it, and its value. */
  whole: Buffer;
  value: Buffer;
}

/** The datasets of a block; of a damaged one those before the damage. */
function* datasetsOf(block: Buffer): Generator<Dataset> {
  const place = placeOfDatasets(block);
  if (!place) return;
  for (let at = place.from; at + 5 <= place.to && block[at] === 0x1c;) {
    const length = block.readUInt16BE(at + 3);
    const end = at + 5 + length;
    if (length > 0x7fff || end > place.to) return;
    yield { record: block[at + 1]!, dataset: block[at + 2]!, whole: block.subarray(at, end), value: block.subarray(at + 5, end) };
    at = end;
  }
}

/** @returns the texts by dataset; of a damaged block what comes before the damage */
export function readIptc(block: Buffer | null): Map<IptcDataset, string[]> {
  const found = new Map<IptcDataset, string[]>();
  let encoding: 'utf8' | 'latin1' = 'latin1';
  for (const { record, dataset, value } of block ? datasetsOf(block) : []) {
    // ESC % G: what follows is UTF-8.
    if (record === 1 && dataset === 90) encoding = value.toString('latin1') === '\u001b%G' ? 'utf8' : 'latin1';
    if (record !== 2 || !(dataset in IPTC_FIELDS)) continue;
    const texts = found.get(dataset as IptcDataset);
    const text = value.toString(encoding).replaceAll('\0', '').trim();
    if (!texts) found.set(dataset as IptcDataset, [text]);
    else if (texts.length < MOST) texts.push(text);
  }
  return found;
}

/** The block without where it was made. */
export function withoutPlace(block: Buffer): Buffer {
  const place = placeOfDatasets(block);
  if (!place) return block;
  const kept = [...datasetsOf(block)].filter(({ record, dataset }) => record !== 2 || !PLACE.has(dataset)).map(({ whole }) => whole);
  const data = Buffer.concat(kept);
  const { from, to, sizeAt } = place;
  if (sizeAt === null) return data;
  const before = Buffer.from(block.subarray(0, from));
  before.writeUInt32BE(data.length, sizeAt);
  // Resources are padded to even lengths.
  const after = Math.min(block.length, to + ((to - from) % 2));
  return Buffer.concat([before, data, Buffer.alloc(data.length % 2), block.subarray(after)]);
}
