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

/** The datasets inside of the resources of a JPEG's segment, or by themselves. */
function datasets(block: Buffer): Buffer {
  let at = block.indexOf(RESOURCE);
  while (at >= 0 && at + 12 <= block.length) {
    const id = block.readUInt16BE(at + 4);
    const name = block[at + 6]! + 1;
    const sizeAt = at + 6 + name + (name % 2);
    const size = block.readUInt32BE(sizeAt);
    if (id === IIM) return block.subarray(sizeAt + 4, sizeAt + 4 + size);
    at = block.indexOf(RESOURCE, sizeAt + 4 + size);
  }
  return block[0] === 0x1c ? block : Buffer.alloc(0);
}

/** @returns the texts by dataset; of a damaged block what comes before the damage */
export function readIptc(block: Buffer | null): Map<IptcDataset, string[]> {
  const found = new Map<IptcDataset, string[]>();
  if (!block) return found;
  try {
    const data = datasets(block);
    let encoding: 'utf8' | 'latin1' = 'latin1';
    for (let at = 0; at + 5 <= data.length && data[at] === 0x1c;) {
      const [record, dataset, length] = [data[at + 1]!, data[at + 2]!, data.readUInt16BE(at + 3)];
      const value = data.subarray(at + 5, at + 5 + length);
      if (length > 0x7fff) break;
      // ESC % G: what follows is UTF-8.
      if (record === 1 && dataset === 90) encoding = value.toString('latin1') === '\u001b%G' ? 'utf8' : 'latin1';
      if (record === 2 && dataset in IPTC_FIELDS) {
        const key = dataset as IptcDataset;
        found.set(key, [...(found.get(key) ?? []), value.toString(encoding).replaceAll('\0', '').trim()]);
      }
      at += 5 + length;
    }
  } catch {
    // what was read before it is sound
  }
  return found;
}
