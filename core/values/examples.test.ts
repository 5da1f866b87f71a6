import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { formatOf, readerOf, type ReadType, type ScaleName } from './format';
import { locales, type LocaleName } from './locale';

const page = readFileSync(fileURLToPath(new URL('../../docs/values.md', import.meta.url)), 'utf8');
const examples = [
  ...page.matchAll(/^\| `([^`]+)` \| ([a-z]{2}-[A-Z]{2}) \| ([^|]+) \| (?:`([^`]+)`|(blank|misfit)) \|$/gm),
].map(([, printed, locale, format, value, word]) => ({ printed, locale, format: format.trim(), value: value ?? word }));

describe('the examples of docs/values.md', () => {
  it('are all there', () => expect(examples.length).toBe(page.split('\n').filter((line) => /^\| `/.test(line)).length));

  it.each(examples)('$printed in $locale as $format is $value', ({ printed, locale, format, value }) => {
    const [type, setting = ''] = format.split(', ');
    const unit = /^unit (.+)$/.exec(setting)?.[1] ?? '';
    const scale = (/^scale (.+)$/.exec(setting)?.[1] ?? 'as printed') as ScaleName;
    const parsed = readerOf(
      formatOf({ type: type as ReadType, unit, scale, nil: setting === 'nil zero' ? 'zero' : 'blank' }),
      locales[locale as LocaleName],
    )(printed);
    expect('value' in parsed ? (parsed.value === null ? 'blank' : String(parsed.value)) : 'misfit').toBe(value);
  });
});
