/** What files say of themselves, written and read by exiftool. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { emptyDocument } from '@umbo/core/document';
import type { MetadataBlocks } from '@umbo/files';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { carriedBlocks } from '../src/metadata/carried.ts';
import { correctedExif } from '../src/metadata/exif.ts';
import { readIptc } from '../src/metadata/iptc.ts';
import { correctedXmp, rightsOf } from '../src/metadata/xmp.ts';
import type { Pool } from '../src/pool.ts';
import { renderFile, type Rendering } from '../src/renderFile.ts';
import { perform } from '../src/tasks.ts';
import { full, ownFolder } from './picture.ts';

const pool = { size: 1, run: (task) => Promise.resolve(perform(task)) } as Pick<Pool, 'size' | 'run'> as Pool;
const { folder, level } = ownFolder();
const original = join(folder, 'original.jpg');
const own = join(folder, 'metadata');
let metadata: MetadataBlocks;

const WRITTEN = {
  'EXIF:Make': 'Kiln',
  'EXIF:Model': 'Kiln 4',
  'EXIF:Orientation#': '6',
  'EXIF:Software': 'Firmware 1.2.3',
  'EXIF:Artist': 'Jörg Müller',
  'EXIF:Copyright': '© Makers',
  'EXIF:DateTimeOriginal': '2026:03:14 15:09:26',
  'EXIF:LensModel': 'Normal 50',
  'EXIF:FNumber': '2.8',
  'EXIF:ExifImageWidth': '4000',
  'EXIF:GPSLatitude': '51.5',
  'EXIF:GPSLatitudeRef': 'N',
  'EXIF:GPSLongitude': '0.5',
  'EXIF:GPSLongitudeRef': 'E',
  'IPTC:CodedCharacterSet': 'UTF8',
  'IPTC:By-line': 'Jörg Müller',
  'IPTC:City': 'Saltings',
  'IPTC:Sub-location': 'Marsh Lane',
  'IPTC:Country-PrimaryLocationName': 'Marshland',
  'IPTC:Credit': 'Workshop',
  'IPTC:Keywords': 'glaze',
  'XMP-dc:Rights': '© Makers, all rights',
  'XMP-xmpRights:UsageTerms': 'Ask first',
  'XMP-photoshop:Headline': 'Five vessels',
  'XMP-tiff:Orientation#': '6',
  'XMP-exif:GPSLatitude': '51.5',
  'XMP-photoshop:Country': 'Marshland',
  'XMP-iptcCore:Location': 'Marsh Lane',
  'XMP-iptcExt:LocationCreatedCity': 'Saltings',
};

beforeAll(async () => {
  mkdirSync(own);
  await sharp({ create: { ...full, channels: 3, background: '#864' } })
    .jpeg()
    .toFile(original);
  execFileSync('exiftool', ['-q', '-overwrite_original', ...Object.entries(WRITTEN).map(([tag, value]) => `-${tag}=${value}`), original]);
  const { exif, xmp, iptc } = await sharp(original).metadata();
  metadata = { exif: exif!, xmp: xmp!, iptc: iptc! };
});

type Tags = Record<string, string | number | string[]>;
async function tagsOf(options: Partial<Rendering['options']>, blocks = metadata): Promise<Tags> {
  const file = await renderFile(
    {
      document: emptyDocument(full),
      full,
      level,
      pictures: [],
      metadata: blocks,
      press: null,
      options: { format: 'jpeg', bits: 8, space: 'srgb', quality: 90, ...options },
    },
    own,
    pool,
    { told: () => undefined, signal: new AbortController().signal },
  );
  return (JSON.parse(execFileSync('exiftool', ['-j', '-G1', '-n', file!], { encoding: 'utf8' })) as [Tags])[0];
}

describe('metadata', () => {
  it.each([
    ['jpeg', 8],
    ['png', 8],
    ['png', 16],
    ['webp', 8],
    ['avif', 8],
    ['tiff', 8],
    ['tiff', 16],
  ] as const)('goes along into %s of %i bits, corrected: upright, as large as it is, by Umbo', async (format, bits) => {
    const tags = await tagsOf({ format, bits });
    expect(tags).toMatchObject({
      'IFD0:Make': 'Kiln',
      'IFD0:Model': 'Kiln 4',
      'IFD0:Orientation': 1,
      'IFD0:Software': 'Umbo',
      'IFD0:Artist': 'Jörg Müller',
      'ExifIFD:DateTimeOriginal': '2026:03:14 15:09:26',
      'ExifIFD:LensModel': 'Normal 50',
      'ExifIFD:FNumber': 2.8,
      'ExifIFD:ExifImageWidth': full.width,
      'GPS:GPSLatitude': 51.5,
      'XMP-dc:Rights': '© Makers, all rights',
      'XMP-photoshop:Headline': 'Five vessels',
      'XMP-tiff:Orientation': 1,
      // What only IPTC said, said in XMP too.
      'XMP-dc:Creator': 'Jörg Müller',
      'XMP-photoshop:City': 'Saltings',
      'XMP-dc:Subject': 'glaze',
    });
    if (format === 'jpeg') expect(tags['IPTC:By-line']).toBe('Jörg Müller');
  });

  it('leaves the place at home where that is asked for, in every block', async () => {
    for (const format of ['jpeg', 'tiff'] as const) {
      const said = await tagsOf({ place: false, format });
      expect(
        Object.entries(said).filter(([tag, value]) => /GPS|City|Country|Location/.test(tag) || /Saltings|Marsh/.test(String(value))),
      ).toEqual([]);
      if (format === 'jpeg') expect([said['IPTC:Credit'], said['IPTC:By-line']]).toEqual(['Workshop', 'Jörg Müller']);
    }
    const tags = await tagsOf({ place: false });
    expect(tags['ExifIFD:LensModel']).toBe('Normal 50');
    const kept = correctedExif(metadata.exif!, full, true)!;
    const without = correctedExif(metadata.exif!, full, false)!;
    expect(without.length).toBe(kept.length);
    // 51.5 degrees as three rationals stood there, and do not stand there any more.
    const rational = Buffer.from([0, 0, 0, 51, 0, 0, 0, 1]);
    expect([kept.includes(rational) || kept.includes(Buffer.from([51, 0, 0, 0, 1, 0, 0, 0])), without.includes(rational) || without.includes(Buffer.from([51, 0, 0, 0, 1, 0, 0, 0]))]).toEqual([true, false]); // prettier-ignore
  });

  it('that is too long for one segment of a JPEG goes in further ones, and whoever reads only the first finds the rights', async () => {
    const steps = Array.from(
      { length: 900 },
      (_, i) => `<rdf:li>step ${i} of many, ${'which another program wrote down '.repeat(3)}</rdf:li>`,
    );
    const subject = `<dc:description xmlns:dc="http://purl.org/dc/elements/1.1/"><rdf:Alt><rdf:li xml:lang="x-default">Five vessels on a shelf</rdf:li></rdf:Alt></dc:description><dc:subject xmlns:dc="http://purl.org/dc/elements/1.1/"><rdf:Bag>${steps.join('')}</rdf:Bag></dc:subject>`;
    const long = metadata
      .xmp!.toString('utf8')
      .replace('</rdf:RDF>', `<rdf:Description rdf:about="">${subject}</rdf:Description></rdf:RDF>`);
    const tags = await tagsOf({}, { ...metadata, xmp: Buffer.from(long) });
    expect(tags).toMatchObject({
      'XMP-dc:Description': 'Five vessels on a shelf',
      'XMP-dc:Rights': '© Makers, all rights',
      'XMP-tiff:Orientation': 1,
    });
    expect((tags['XMP-dc:Subject'] as string[]).at(-1)).toContain('step 899');
    const file = readFileSync(join(own, 'result'));
    expect((await sharp(file).metadata()).width).toBe(full.width);
    expect(execFileSync('exiftool', ['-validate', '-warning', '-a', join(own, 'result')], { encoding: 'utf8' })).not.toMatch(
      /corrupt|truncated|extended/i,
    );
  });

  it('is the rights alone, from wherever they were, or nothing', async () => {
    const tags = await tagsOf({ metadata: 'rights', format: 'png' });
    expect(tags).toMatchObject({
      'IFD0:Artist': 'Jörg Müller',
      'IFD0:Copyright': '© Makers, all rights',
      'XMP-dc:Rights': '© Makers, all rights',
      'XMP-dc:Creator': 'Jörg Müller',
      'XMP-photoshop:Credit': 'Workshop',
      'XMP-xmpRights:UsageTerms': 'Ask first',
    });
    expect(Object.keys(tags).filter((tag) => /^(?!ICC).*(GPS|Make|Model|Original|City|Headline|Subject)/.test(tag))).toEqual([]);
    const none = await tagsOf({ metadata: 'none' });
    expect(Object.keys(none).filter((tag) => /^(IFD0:(Make|Artist|Copyright)|GPS|XMP|IPTC|ExifIFD:Lens)/.test(tag))).toEqual([]);
  });

  it('is read in the encoding that a block names, and in XMP as elements or as attributes', () => {
    // IIM 4.2: a dataset is 0x1c, record, number, two bytes of length; without 1:90 texts are Latin-1 by common practice.
    const dataset = (record: number, number: number, value: Buffer): Buffer =>
      Buffer.concat([Buffer.from([0x1c, record, number, value.length >> 8, value.length & 255]), value]);
    expect(readIptc(dataset(2, 80, Buffer.from('Jörg', 'latin1'))).get(80)).toEqual(['Jörg']);
    const utf8 = Buffer.concat([
      dataset(1, 90, Buffer.from('\u001b%G')),
      dataset(2, 25, Buffer.from('größe')),
      dataset(2, 25, Buffer.from('漢')),
    ]);
    expect(readIptc(utf8).get(25)).toEqual(['größe', '漢']);
    expect(readIptc(utf8.subarray(0, utf8.length - 2)).get(25)![0]).toBe('größe');
    const packet = (inside: string): string =>
      `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">${inside}</rdf:RDF></x:xmpmeta>`;
    const attributes = packet('<rdf:Description xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/" xmlns:exif="http://ns.adobe.com/exif/1.0/" photoshop:Credit="A &amp; B" exif:GPSLatitude="51,30N"/>'); // prettier-ignore
    const rights = rightsOf(attributes, new Map(), { artist: 'E. Artist', copyright: null });
    expect([rights.artist, rights.copyright]).toEqual(['E. Artist', null]);
    expect(rights.xmp).toContain('<photoshop:Credit>A &amp; B</photoshop:Credit>');
    expect(correctedXmp(attributes, new Map([[110, ['other']]]), full, false)).not.toMatch(/GPS|other/);
    expect(correctedXmp(null, new Map(), full, true)).toBeNull();
    // Lists without end, tags that are never closed, elements in elements in elements: read as far as anybody would.
    const keywords = Buffer.concat(Array.from({ length: 80_000 }, () => dataset(2, 25, Buffer.alloc(0))));
    expect(readIptc(keywords).get(25)).toHaveLength(1000);
    const nested = packet('<rdf:Description>' + '<a:b xmlns:a="c">'.repeat(3000) + '</a:b>'.repeat(3000) + '</rdf:Description>');
    expect(correctedXmp(nested, new Map([[110, ['Workshop']]]), full, true)).toContain('<photoshop:Credit>Workshop</photoshop:Credit>');
    expect(rightsOf(nested, new Map(), { artist: 'E. Artist', copyright: null }).artist).toBe('E. Artist');
    const open = packet('<rdf:Description>' + '<xmp:Thumbnails>'.repeat(40_000) + '</rdf:Description>');
    expect(correctedXmp(open, new Map(), full, true)).toBeNull();
    const flat = packet('<rdf:Description xmlns:tiff="t" xmlns:xmp="x">' + '<tiff:Orientation a="&gt;">6</tiff:Orientation><!-- <tiff:Orientation> -->'.repeat(20_000) + '<xmp:Label>kept</xmp:Label></rdf:Description>'); // prettier-ignore
    const left = correctedXmp(flat, new Map(), full, true)!;
    expect([left.match(/<tiff:Orientation a/g), left.includes('<xmp:Label>kept</xmp:Label>')]).toEqual([null, true]);
  });

  it('that is damaged, or was made to do harm, keeps nothing from being handed over', async () => {
    const blocks = [
      {
        exif: Buffer.from('Exif\0\0II*\0\xff\xff\xff\xff', 'latin1'),
        xmp: Buffer.from('<x:xmpmeta><rdf:RDF>'),
        iptc: Buffer.from('8BIM\x04\x04'),
      },
      { exif: metadata.exif!.subarray(0, 60), xmp: Buffer.from('<!DOCTYPE a [<!ENTITY b "c"><!ENTITY d "&b;&b;&b;">]><rdf:RDF>&d;</rdf:RDF>'), iptc: Buffer.from([0x1c, 2, 80, 0x80, 4, 1, 1]) }, // prettier-ignore
      { exif: Buffer.alloc(0), xmp: Buffer.alloc(0), iptc: Buffer.alloc(0) },
    ];
    for (const block of blocks)
      for (const [wanted, format] of [
        ['all', 'jpeg'],
        ['all', 'tiff'],
        ['rights', 'jpeg'],
        ['none', 'jpeg'],
      ] as const) {
        const tags = await tagsOf({ metadata: wanted, format }, block);
        expect(tags['File:ImageWidth'] ?? tags['IFD0:ImageWidth']).toBe(full.width);
      }
    expect(carriedBlocks({ exif: null, xmp: null, iptc: null }, {}, full)).toEqual({ exif: null, xmp: null, iptc: null });
    expect(readFileSync(original).length).toBeGreaterThan(0);
  });
});
