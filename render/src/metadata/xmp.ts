/** XMP packets (ISO 16684-1): what the original says of itself, what IPTC adds to that, and its rights alone. */
import type { Size } from '@umbo/core/base';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { IPTC_FIELDS, type IptcDataset } from './iptc.ts';

const NAMESPACES: Record<string, string> = {
  dc: 'http://purl.org/dc/elements/1.1/',
  photoshop: 'http://ns.adobe.com/photoshop/1.0/',
  xmpRights: 'http://ns.adobe.com/xap/1.0/rights/',
};
const RIGHTS = [
  'dc:creator',
  'dc:rights',
  'photoshop:Credit',
  'xmpRights:Marked',
  'xmpRights:UsageTerms',
  'xmpRights:WebStatement',
] as const;
const SHAPES: Record<string, 'text' | 'Alt' | 'Seq' | 'Bag'> = {
  ...Object.fromEntries(Object.values(IPTC_FIELDS)),
  'xmpRights:UsageTerms': 'Alt',
};

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

function property(name: string, values: readonly string[]): string {
  const shape = SHAPES[name] ?? 'text';
  if (shape === 'text') return `<${name}>${escaped(values.join('; '))}</${name}>`;
  const item = shape === 'Alt' ? '<rdf:li xml:lang="x-default">' : '<rdf:li>';
  return `<${name}><rdf:${shape}>${values.map((value) => `${item}${escaped(value)}</rdf:li>`).join('')}</rdf:${shape}></${name}>`;
}

const description = (properties: readonly string[]): string => {
  const spaces = Object.entries(NAMESPACES).map(([prefix, uri]) => `xmlns:${prefix}="${uri}"`);
  return `<rdf:Description rdf:about="" ${spaces.join(' ')}>${properties.join('')}</rdf:Description>`;
};
const packet = (properties: readonly string[]): string =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">${description(properties)}</rdf:RDF></x:xmpmeta>`;

/** All texts below a node of the parsed tree. */
const textsIn = (node: unknown): string[] =>
  typeof node === 'object' && node !== null
    ? Object.entries(node).flatMap(([key, value]) => (key.startsWith('@') ? [] : textsIn(value)))
    : node === undefined || node === ''
      ? []
      : [String(node)];

/** The values of a property, as an element or as an attribute. */
function valuesIn(xmp: string, name: string): string[] {
  const found: string[] = [];
  const walk = (node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    for (const [key, value] of Object.entries(node)) {
      if (key === name || key === `@${name}`) found.push(...textsIn(value));
      else walk(value);
    }
  };
  walk(new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '@', processEntities: true, parseTagValue: false }).parse(xmp));
  return found;
}

/** XMP has no document type: what declares entities of its own is not read. */
const wellFormed = (xmp: string): boolean =>
  !xmp.includes('<!DOCTYPE') && XMLValidator.validate(xmp) === true && xmp.includes('</rdf:RDF>');

/** Takes properties out of a packet, however they are written. */
const without = (xmp: string, names: string): string =>
  xmp
    .replace(new RegExp(`\\s(?:${names})="[^"]*"`, 'gu'), '')
    .replace(new RegExp(`<(${names})(?:\\s[^>]*)?/>`, 'gu'), '')
    .replace(new RegExp(`<(${names})(?:\\s[^>]*)?>[\\s\\S]*?</\\1>`, 'gu'), '');

/** What would be wrong of a picture that was rendered, and small pictures of how it was before. */
const OUTDATED =
  'tiff:Orientation|tiff:ImageWidth|tiff:ImageLength|exif:PixelXDimension|exif:PixelYDimension|xmp:CreatorTool|xmp:Thumbnails';

/**
 * The packet for a picture that was rendered: that of the original, with what IPTC has beside it.
 * @param xmp of the original; null, and one that is damaged: none
 * @param place whether the place where it was taken stays
 */
export function correctedXmp(xmp: string | null, iptc: ReadonlyMap<IptcDataset, string[]>, size: Size, place: boolean): string | null {
  const sound = xmp !== null && wellFormed(xmp) ? xmp : null;
  const missing = [...iptc].flatMap(([dataset, values]) => {
    const [name] = IPTC_FIELDS[dataset];
    return sound !== null && valuesIn(sound, name).length > 0 ? [] : [property(name, values)];
  });
  if (sound === null) return missing.length > 0 ? packet(missing) : null;
  const kept = without(without(sound, OUTDATED), place ? OUTDATED : 'exif:GPS\\w+');
  const own = `<rdf:Description rdf:about="" xmlns:tiff="http://ns.adobe.com/tiff/1.0/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"><tiff:Orientation>1</tiff:Orientation><tiff:ImageWidth>${size.width}</tiff:ImageWidth><tiff:ImageLength>${size.height}</tiff:ImageLength><xmp:CreatorTool>Umbo</xmp:CreatorTool></rdf:Description>`;
  return kept.replace('</rdf:RDF>', () => `${missing.length > 0 ? description(missing) : ''}${own}</rdf:RDF>`);
}

/** Who made it and who may use it, from wherever the original says so. */
export function rightsOf(
  xmp: string | null,
  iptc: ReadonlyMap<IptcDataset, string[]>,
  exif: { artist: string | null; copyright: string | null },
): { xmp: string | null; artist: string | null; copyright: string | null } {
  const sound = xmp !== null && wellFormed(xmp) ? xmp : null;
  const fromIptc = (name: string): string[] => [...iptc].flatMap(([dataset, values]) => (IPTC_FIELDS[dataset][0] === name ? values : []));
  const fromExif: Record<string, string | null> = { 'dc:creator': exif.artist, 'dc:rights': exif.copyright };
  const known = RIGHTS.map((name): [string, string[]] => {
    const said = sound === null ? [] : valuesIn(sound, name);
    if (said.length > 0) return [name, said];
    const { [name]: own = null } = fromExif;
    const other = fromIptc(name);
    return [name, other.length > 0 ? other : own === null ? [] : [own]];
  }).filter(([, values]) => values.length > 0);
  const first = (name: string): string | null => known.find(([key]) => key === name)?.[1].join('; ') ?? null;
  return {
    xmp: known.length > 0 ? packet(known.map(([name, values]) => property(name, values))) : null,
    artist: first('dc:creator'),
    copyright: first('dc:rights'),
  };
}
