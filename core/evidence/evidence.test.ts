import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bundleFiles, bundleFirst } from './bundle';
import { evidenceIn, type Evidence } from './evidence';
import { figureOf, slipHtml } from './slip';

const box: [number, number, number, number] = [10, 20, 60, 30];
const tie: Evidence['ties'][number] = {
  step: 'totals',
  label: 'Total Saltby',
  column: 'Value',
  page: 2,
  printed: 217409.42,
  computed: 217369.42,
  rows: 3,
  outcome: 'off',
};
function slip(some: Partial<Evidence> = {}): Evidence {
  return {
    format: 'able-sieve/evidence',
    version: 1,
    pipeline: { name: 'Landing sheets', version: 3, document: { name: 'Landing sheets' } },
    publishedAt: '2025-06-16 09:00',
    reader: 11,
    figure: {
      kind: 'cell',
      column: 'Value',
      text: '1234.5',
      row: { table: 't', ordinal: 4, nth: 0 },
      beside: [{ column: 'Code', text: 'HK1' }],
    },
    file: { path: 'week-24.pdf', sha256: 'ab'.repeat(32), period: '2025-W24' },
    print: [{ page: 2, box, words: [{ text: '1,234.50', box }] }],
    passed: [{ title: 'Set types', column: 'Value', text: '1234.5' }],
    held: [{ title: 'Hold totals', reason: 'adds up', page: 2, text: 'Total 1,234.50' }],
    corrections: [],
    ties: [tie],
    ...some,
  };
}
const nasty = fc.oneof(
  fc.string(),
  fc.constantFrom(
    '</script>',
    '<img src=x onerror=alert(1)>',
    '<script type="application/json" id="evidence">{}</script>',
    '&amp;',
    '"\'',
    '\u2028',
    '🐟',
    '<!--',
    ']]>',
  ),
);
const elements = (html: string) => [...html.matchAll(/<([a-z]+[0-9]?)/g)].map(([, name]) => name).sort();

describe('an evidence slip', () => {
  it('gives back what it was written of, whatever the texts in it say', () => {
    fc.assert(
      fc.property(nasty, nasty, nasty, nasty, (text, path, reason, name) => {
        const own = slip({
          pipeline: { name, version: 1, document: { name, note: text } },
          figure: {
            kind: 'cell',
            column: name,
            text,
            row: { table: path, ordinal: 1, nth: 0 },
            beside: [{ column: reason, text }],
          },
          file: { path, sha256: text, period: null },
          print: [{ page: 1, box, words: [{ text, box }] }],
          held: [{ title: name, reason, page: 1, text }],
          corrections: [{ title: name, column: reason, old: text, why: reason }],
        });
        expect(evidenceIn(slipHtml(own, []))).toEqual(own);
      }),
    );
  });

  it('has no element that a text of the paper brings along', () => {
    const plain = elements(slipHtml(slip(), [{ page: 2, image: 'data:image/png;base64,AA' }]));
    fc.assert(
      fc.property(nasty, (text) => {
        const own = slip({
          pipeline: { name: text, version: 3, document: {} },
          file: { path: text, sha256: text, period: null },
          print: [{ page: 2, box, words: [{ text, box }] }],
          passed: [{ title: text, column: text, text }],
          held: [{ title: text, reason: text, page: 2, text }],
          ties: [{ ...tie, label: text, column: text, because: text }],
        });
        expect(
          elements(slipHtml(own, [{ page: 2, image: text }]).replace(/<script[^]*<\/script>/, '<script>')),
        ).toEqual(plain);
      }),
    );
  });

  it('says what the figure is, where it stands on paper, and how it ties out', () => {
    const html = slipHtml(slip({ ties: [{ ...tie, accepted: 'misprinted' }] }), []);
    for (const says of [
      'Landing sheets, version 3, published 2025-06-16 09:00',
      '<p class="figure">1234.5</p>',
      'week-24.pdf, page 2: “1,234.50”',
      '<td>Set types</td><td>Value</td><td>1234.5</td>',
      'off, accepted: misprinted',
      '<td>217409.42</td><td>217369.42</td>',
    ])
      expect(html).toContain(says);
    expect(html).not.toContain('Corrected by hand');
    expect(slipHtml(slip({ print: [] }), [])).toContain('not from the paper; it comes from a file name or a step');
  });

  it('of a total lists the rows that it covers, and how many more there are', () => {
    const own = slip({
      figure: {
        kind: 'total',
        row: { table: 't', ordinal: 9 },
        tie,
        covers: [{ label: 'HK1', amount: '1,234.50', page: 2 }],
        more: 70,
      },
    });
    expect(figureOf(own)).toEqual({
      named: 'Total Saltby, Value',
      value: '217409.42 printed, 217369.42 from its 3 rows',
    });
    expect(slipHtml(own, [])).toContain('<td>HK1</td><td>1,234.50</td><td>2</td>');
    expect(slipHtml(own, [])).toContain('and 70 more');
    const { computed: _, ...alone } = tie;
    expect(
      figureOf(
        slip({
          figure: { kind: 'total', row: { table: 't', ordinal: 9 }, tie: { ...alone, label: '' }, covers: [], more: 0 },
        }),
      ),
    ).toEqual({ named: 'Total, Value', value: '217409.42 printed' });
    expect(
      figureOf(
        slip({
          figure: { kind: 'cell', column: 'Note', text: '', row: { table: 't', ordinal: 1, nth: 0 }, beside: [] },
        }),
      ).value,
    ).toBe('(blank)');
  });

  it('that is none, or is damaged, is told so', () => {
    const html = slipHtml(slip(), []);
    for (const text of [
      '',
      '<html></html>',
      html.slice(0, html.indexOf('application/json')),
      html.slice(0, html.indexOf('</script>')),
    ])
      expect(() => evidenceIn(text)).toThrow('It is no evidence slip of Able Sieve');
    expect(() => evidenceIn(html.replace('"version":1', '"version":,1'))).toThrow('damaged');
    // A later version, or one of which a part is gone, is not taken for one that holds.
    expect(() => evidenceIn(html.replace('"version":1,"pipeline"', '"version":2,"pipeline"'))).toThrow();
    expect(() => evidenceIn(html.replace('"reader":11,', ''))).toThrow();
  });
});

describe('a bundle of slips', () => {
  const named = (name: string) => ({ name, evidence: slip(), html: 'x' });

  it('has a file for each in their order, and a page that leads to all of them', () => {
    const files = bundleFiles(
      'Checks <June>',
      Array.from({ length: 11 }, (_, i) => named(`Total ${i}`)),
    );
    expect(files.map(({ name }) => name).slice(0, 3)).toEqual([bundleFirst, '01 Total 0.html', '02 Total 1.html']);
    expect(files.at(-1)!.name).toBe('11 Total 10.html');
    const hrefs = [...files[0].html.matchAll(/href="([^"]+)"/g)].map(([, href]) => decodeURIComponent(href));
    expect(hrefs).toEqual(files.slice(1).map(({ name }) => name));
    expect(files[0].html).toContain('Checks &lt;June&gt;');
  });

  it('names no file so that it would lie elsewhere, and no two alike', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(nasty, fc.constantFrom('../../etc/passwd', 'a/b', 'C:\\x', '', '..', 'same', 'same')), {
          minLength: 1,
          maxLength: 12,
        }),
        (names) => {
          const files = bundleFiles('x', names.map(named)).map(({ name }) => name);
          expect(new Set(files).size).toBe(files.length);
          for (const file of files) expect(file).not.toMatch(/[/\\:<>"|?*]|^\.|\u0000/);
        },
      ),
    );
  });
});
