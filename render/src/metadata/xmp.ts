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

type Values = ReadonlyMap<string, string[]>;

/** Deeper than this nothing is nested that says who made a picture, and of one property no more values are read. */
const DEPTH = 40;
const MOST = 1000;

/**
 * The values of properties, as elements or as attributes; read once for all of them. XMP has no document type: what declares entities of its
 * own is not read.
 * @returns null for what is not well-formed, or is nested deeper than any reader likes
 */
function valuesIn(xmp: string, names: ReadonlySet<string>): Values | null {
  if (xmp.includes('<!DOCTYPE') || !xmp.includes('</rdf:RDF>')) return null;
  const found = new Map<string, string[]>();
  const walk = (node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    for (const [key, value] of Object.entries(node)) {
      const name = key.startsWith('@') ? key.slice(1) : key;
      if (!names.has(name)) walk(value);
      else if (found.has(name)) found.get(name)!.push(...textsIn(value).slice(0, MOST));
      else found.set(name, textsIn(value).slice(0, MOST));
    }
  };
  try {
    if (XMLValidator.validate(xmp) !== true) return null;
    walk(
      new XMLParser({
        ...{ ignoreAttributes: false, attributeNamePrefix: '@', processEntities: true, parseTagValue: false },
        maxNestedTags: DEPTH,
      }).parse(xmp),
    );
  } catch {
    return null;
  }
  return found;
}

/** The end of what begins at a place of a well-formed packet, behind its last letter. */
function endOfMarkup(xmp: string, at: number): number {
  for (const [begin, end] of MARKUP)
    if (xmp.startsWith(begin, at)) {
      const found = xmp.indexOf(end, at + begin.length);
      return found < 0 ? xmp.length : found + end.length;
    }
  let quote = '';
  for (let i = at + 1; i < xmp.length; i++) {
    const letter = xmp[i]!;
    if (quote) quote = letter === quote ? '' : quote;
    else if (letter === '"' || letter === "'") quote = letter;
    else if (letter === '>') return i + 1;
  }
  return xmp.length;
}
const MARKUP = [
  ['<!--', '-->'],
  ['<![CDATA[', ']]>'],
  ['<?', '?>'],
] as const;
const ATTRIBUTE = /\s+([^\s=]+)\s*=\s*("[^"]*"|'[^']*')/gu;

/** Takes properties out of a well-formed packet, however they are written: in one pass. */
function without(xmp: string, isOut: (name: string) => boolean): string {
  const kept: string[] = [];
  /** The property that is being left out, and how deep one stands in it. */
  let out = { name: '', depth: 0 };
  for (let at = 0; at < xmp.length;) {
    const next = xmp.indexOf('<', at);
    const text = next < 0 ? xmp.slice(at) : xmp.slice(at, next);
    if (out.depth === 0) kept.push(text);
    if (next < 0) break;
    const end = endOfMarkup(xmp, next);
    const tag = xmp.slice(next, end);
    const [, closes, name] = /^<(\/?)([^\s/>!?]+)/u.exec(tag) ?? [];
    const isEmpty = tag.endsWith('/>');
    if (out.depth > 0) {
      if (name === out.name && !isEmpty) out = { ...out, depth: out.depth + (closes ? -1 : 1) };
    } else if (name !== undefined && !closes && isOut(name)) {
      if (!isEmpty) out = { name, depth: 1 };
    } else kept.push(name === undefined || closes ? tag : tag.replace(ATTRIBUTE, (whole, of: string) => (isOut(of) ? '' : whole)));
    at = end;
  }
  return kept.join('');
}

/** What would be wrong of a picture that was rendered, and small pictures of how it was before. */
const OUTDATED = new Set([
  ...['tiff:Orientation', 'tiff:ImageWidth', 'tiff:ImageLength', 'exif:PixelXDimension', 'exif:PixelYDimension'],
  ...['xmp:CreatorTool', 'xmp:Thumbnails'],
]);
/** Where it was made ("IPTC Photo Metadata Standard"; Exif for XMP). */
const PLACE = new Set([
  ...['photoshop:City', 'photoshop:State', 'photoshop:Country', 'Iptc4xmpCore:Location', 'Iptc4xmpCore:CountryCode'],
  ...['Iptc4xmpExt:LocationCreated', 'Iptc4xmpExt:LocationShown', 'Iptc4xmpExt:Sublocation', 'Iptc4xmpExt:City'],
  ...['Iptc4xmpExt:ProvinceState', 'Iptc4xmpExt:CountryName', 'Iptc4xmpExt:CountryCode', 'Iptc4xmpExt:WorldRegion'],
]);
const isPlace = (name: string): boolean => PLACE.has(name) || name.startsWith('exif:GPS');
/**
 * The packet for a picture that was rendered: that of the original, with what IPTC has beside it.
 * @param xmp of the original; null, and one that is damaged: none
 * @param place whether the place where it was taken stays
 */
export function correctedXmp(xmp: string | null, iptc: ReadonlyMap<IptcDataset, string[]>, size: Size, place: boolean): string | null {
  const said = xmp === null ? null : valuesIn(xmp, new Set(Object.values(IPTC_FIELDS).map(([name]) => name)));
  const missing = [...iptc].flatMap(([dataset, values]) => {
    const [name] = IPTC_FIELDS[dataset];
    return said?.get(name)?.length || (!place && isPlace(name)) ? [] : [property(name, values)];
  });
  if (xmp === null || said === null) return missing.length > 0 ? packet(missing) : null;
  const kept = without(xmp, (name) => OUTDATED.has(name) || (!place && isPlace(name)));
  const own = `<rdf:Description rdf:about="" xmlns:tiff="http://ns.adobe.com/tiff/1.0/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"><tiff:Orientation>1</tiff:Orientation><tiff:ImageWidth>${size.width}</tiff:ImageWidth><tiff:ImageLength>${size.height}</tiff:ImageLength><xmp:CreatorTool>Umbo</xmp:CreatorTool></rdf:Description>`;
  return kept.replace('</rdf:RDF>', () => `${missing.length > 0 ? description(missing) : ''}${own}</rdf:RDF>`);
}

/** Who made it and who may use it, from wherever the original says so. */
export function rightsOf(
  xmp: string | null,
  iptc: ReadonlyMap<IptcDataset, string[]>,
  exif: { artist: string | null; copyright: string | null },
): { xmp: string | null; artist: string | null; copyright: string | null } {
  const found = xmp === null ? null : valuesIn(xmp, new Set(RIGHTS));
  const fromIptc = (name: string): string[] => [...iptc].flatMap(([dataset, values]) => (IPTC_FIELDS[dataset][0] === name ? values : []));
  const fromExif: Record<string, string | null> = { 'dc:creator': exif.artist, 'dc:rights': exif.copyright };
  const known = RIGHTS.map((name): [string, string[]] => {
    const said = found?.get(name) ?? [];
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
