import { cellText, type Cell } from '../values/cell';
import { formOf, type Field } from '../steps/fields';
import { kinds } from '../steps/kinds';
import { groups } from '../steps/step';
import { sampleList } from './sheets';
import { stepExamples } from './step-examples';

const cell = (of: Cell) => cellText(of).replaceAll('|', '\\|') || ' ';
const table = ([names, ...rows]: readonly (readonly Cell[])[]) =>
  [
    `| ${names.map(cell).join(' | ')} |`,
    `|${names.map(() => '---').join('|')}|`,
    ...rows.map((row) => `| ${row.map(cell).join(' | ')} |`),
  ].join('\n');

const setting = (field: Field, depth = 0): string[] => [
  `${'  '.repeat(depth)}- \`${field.name}\`: ${[field.title, 'options' in field ? `(${field.options.join(', ')})` : '', field.help].filter(Boolean).join('. ').replace('. (', ' (')}`,
  ...('fields' in field ? field.fields : []).flatMap((own) => setting(own, depth + 1)),
];

/** `docs/steps.md`: every kind of step by its declaration, with one example. */
export function stepsPage(): string {
  const parts = [
    '# Kinds of steps',
    'Written from the declarations by `npm run docs:steps`; the examples are run as tests. Rows that leave are held with the reason, cells that change are listed old and new.',
  ];
  for (const group of groups) {
    parts.push(`## ${group[0].toUpperCase()}${group.slice(1)}`);
    for (const kind of [...kinds.values()]
      .filter((each) => each.group === group)
      .sort((a, b) => a.title.localeCompare(b.title))) {
      const { settings, before, after, held, looksUp } = stepExamples[kind.kind];
      parts.push(
        `### ${kind.title}`,
        `\`${kind.kind}\`. ${kind.help} ${typeof kind.commutesWithAppend === 'function' ? 'Works row by row, but for settings that look at rows together.' : kind.commutesWithAppend ? 'Works row by row: the same on each report and on all.' : 'Looks at rows together: its zone matters.'}`,
        ...(formOf(kind).length > 0
          ? [
              formOf(kind)
                .flatMap((field) => setting(field))
                .join('\n'),
            ]
          : []),
        `With \`${JSON.stringify(settings)}\``,
        table(before),
        ...(looksUp
          ? [
              `and the list “${sampleList.name}”`,
              table([
                sampleList.columns.map(({ name }) => name),
                ...Array.from({ length: sampleList.rows }, (_, row) =>
                  sampleList.columns.map(({ cells }) => cells[row]),
                ),
              ]),
            ]
          : []),
        `becomes${held ? `, ${held} ${held === 1 ? 'row' : 'rows'} held,` : ''}`,
        table(after),
      );
    }
  }
  return `${parts.join('\n\n')}\n`;
}
