/** What of a photograph's metadata goes along into a file that is handed over. */
import type { Size } from '@umbo/core/base';
import { type HandOverOptions } from '@umbo/data';
import { exifValues, type MetadataBlocks } from '@umbo/files';
import { correctedExif, plainExif } from './exif.ts';
import { readIptc, withoutPlace } from './iptc.ts';
import { correctedXmp, rightsOf } from './xmp.ts';

const ARTIST = 0x013b;
const COPYRIGHT = 0x8298;

/** Who made it, by the EXIF block. */
function ownerIn(exif: Buffer | null): { artist: string | null; copyright: string | null } {
  const values = exif ? exifValues(exif, new Set([ARTIST, COPYRIGHT])) : new Map<number, string | number>();
  const text = (tag: number): string | null => {
    const value = values.get(tag);
    return typeof value === 'string' && value.trim() !== '' ? value.trim() : null;
  };
  return { artist: text(ARTIST), copyright: text(COPYRIGHT) };
}

/** The packet of rights alone, as text. */
export function rightsPacket({ exif, xmp, iptc }: MetadataBlocks): string | null {
  return rightsOf(xmp?.toString('utf8') ?? null, readIptc(iptc), ownerIn(exif)).xmp;
}

/** @param size of the picture in the file */
export function carriedBlocks(
  { exif, xmp, iptc }: MetadataBlocks,
  { metadata = 'all', place = true }: Pick<HandOverOptions, 'metadata' | 'place'>,
  size: Size,
): MetadataBlocks {
  const nothing = { exif: null, xmp: null, iptc: null };
  if (metadata === 'none') return nothing;
  const texts = readIptc(iptc);
  const said = xmp?.toString('utf8') ?? null;
  const bytes = (text: string | null): Buffer | null => (text === null ? null : Buffer.from(text));
  if (metadata === 'all')
    return {
      exif: exif && correctedExif(exif, size, place),
      xmp: bytes(correctedXmp(said, texts, size, place)),
      iptc: iptc && (place ? iptc : withoutPlace(iptc)),
    };
  const { xmp: rights, artist, copyright } = rightsOf(said, texts, ownerIn(exif));
  const named = [
    [ARTIST, artist],
    [COPYRIGHT, copyright],
  ].filter((one): one is [number, string] => one[1] !== null);
  return { ...nothing, exif: named.length > 0 ? plainExif(named) : null, xmp: bytes(rights) };
}
