import { reportFields } from '../formula/ast';
import { forms } from '../formula/forms';
import { functions } from '../formula/functions/all';
import { groups } from '../formula/functions/function';
import { outside } from '../formula/outside';
import { windows } from '../formula/windows';

const titles: Readonly<Record<(typeof groups)[number], string>> = {
  numbers: 'Numbers',
  texts: 'Texts',
  patterns: 'Patterns',
  dates: 'Dates and times',
  formats: 'Formats',
};
const cell = (text: string) => text.replaceAll('|', '\\|');
const code = (text: string) => (text.includes('`') ? `<code>${cell(text)}</code>` : `\`${cell(text)}\``);
const line = (written: string, says: string, [formula, result]: readonly [string, string]) =>
  `| ${code(written)} | ${cell(says)} | ${code(formula)} is ${result === '' ? 'blank' : code(result)} |`;
const head = '| Written | Gives | Such as |\n|---|---|---|';

/** docs/formulas.md, written from the tables that formulas are checked by. */
export function formulasPage(): string {
  const written = ({ name, args, rest, called, optional = 0 }: (typeof functions)[number]): string => {
    if (!/^\w/.test(name)) return args.length === 2 ? `${args[0]} ${name} ${args[1]}` : `${name} ${args[0]}`;
    const names = called?.split(', ') ?? [...args, ...(rest ? ['...'] : [])];
    return names.length === args.length && optional > 0
      ? `${name}(${names.slice(0, -optional).join(', ')}${names
          .slice(-optional)
          .map((each) => `[, ${each}`)
          .join('')}${']'.repeat(optional)})`
      : `${name}(${names.join(', ')})`;
  };
  return `# Formulas

Written from the tables that formulas are checked by: \`npm run docs:formulas\`. Each example is run by the tests.

A formula is one expression of SQL, worked out row by row: in the step **Compute column**, in conditions *by a formula*, and in checks. It is a subset of
ISO SQL with PostgreSQL's meaning and function names, so there is nothing of our own to learn, and a formula can be taken to a database as it is.

- **Columns** stand in double quotes, as they are called above the step: \`"Weight (kg) Whole" * "Price per kg"\`. Texts stand in single quotes. When a
  column is renamed above, the formula calls it as it is called then.
- **Numbers** are exact decimals, never binary fractions: \`0.1 + 0.2 = 0.3\` is true. All are numeric, so \`7 / 2\` is \`3.5\`. Results are rounded to 15
  significant digits, halves away from zero. Where a function wants a whole number (\`left\`, \`"Day" + 30\`), another is told, not rounded.
- **Blanks** are null: what is worked out of one is blank, a comparison with one is neither true nor false. A condition holds where it is true.
- **Texts** compare by their code points. A column of periods (\`2025-Q2\`, \`2025-W24\`) is text; \`first_day\` and \`last_day\` tell its ends.
- **A row without a value** (a division by zero, a text that is no number, a misfit that is used) has a misfit with the reason; the other rows have
  theirs. As a condition such a formula is not asked at all, and the step says so: it must neither hold nor pass rows unseen.
- **Every result is traced** to the words of all columns that the formula uses.

## Comparisons and conditions

${head}
${Object.values(forms)
  .map(({ written: how, says, example }) => line(how, says, example))
  .join('\n')}
| \`case when … then … else … end\` | The first branch of which the condition is true; also \`case … when … then …\`. | \`case when 2 > 1 then 'more' else 'less' end\` is \`more\` |
| \`cast(… as numeric)\`, \`…::date\` | The value as another type: text, numeric, numeric(p, s), integer, date, time, timestamp, interval, boolean. | \`'12.50'::numeric * 2\` is \`25\` |

${groups
  .map(
    (group) => `## ${titles[group]}

${head}
${functions
  .filter((each) => each.group === group)
  .map((each) => line(written(each), each.says, each.example))
  .join('\n')}
`,
  )
  .join('\n')}
## The report, and other rows of it

${reportFields.map((field) => `\`report.${/ /.test(field) ? `"${field}"` : field}\``).join(', ')} tell of the row what no column does; \`report.row\` counts the rows of a report from 1.

Functions of other rows see those of the same report only, in its order: with \`order by report.row\` those up to the own one, without it all; \`partition by\` parts them.

| Written | Gives |
|---|---|
${Object.values(windows)
  .map(({ written: how, says }) => `| ${code(how)} | ${cell(says)} |`)
  .join('\n')}

## Patterns

\`~\` and the functions of patterns take what POSIX regular expressions and those of programs have in common: signs, classes (\`[a-z]\`, \`[[:alpha:]]\`, \`\\d\`, \`\\w\`, \`\\s\`),
\`^\`, \`$\`, groups, \`|\`, and quantities. What is longest at the first place fits. Looking ahead or behind, references back, word boundaries and a \`?\` behind a quantity are refused. No pattern takes long: they are matched in time that grows with the text alone.

## What is another than PostgreSQL's

- All numbers are numeric, also whole ones: no division is cut.
- Years have four digits, from 0001 to 9999; numbers have at most 2,000 digits while they are worked out, intervals of hours are shorter than 285 years, texts than a million signs.
- \`to_date\` and \`to_number\` take texts that fit their format as a whole, where PostgreSQL guesses.
- A part that is the same in every row fails only where it is looked at; PostgreSQL works it out first.
- \`first_day\` and \`last_day\` of a period are ours.

The embedded PostgreSQL is the judge: \`npm run bench:formulas\` holds 20,000 random cases against it, \`npm test\` more than 2,000.

## What is not there

| Word | Instead |
|---|---|
${Object.entries(outside)
  .map(([word, says]) => `| \`${word}\` | ${cell(says)} |`)
  .join('\n')}
`;
}
