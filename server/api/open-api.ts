import { formats, formatFacts } from '../../core/dataset/file-options';

const text = { type: 'string' };
const query = (name: string, description: string, schema: object = text, more: object = {}) => ({
  name,
  in: 'query',
  required: false,
  description,
  schema,
  ...more,
});

const ofFiles = [
  query('columns', 'Headings with commas between; all columns if left out', text, { example: 'Week,Quay,Boxes' }),
  query(
    'where',
    'A condition that rows must meet, given again for more: a heading, one of = != < <= > >= ~ (contains), and a value, or values with bars between of which one must do; or “… is blank”, “… is not blank”, “… is an error”',
    { type: 'array', items: text },
    { example: ['Boxes >= 10', 'Quay = Saltby|Fairlead'] },
  ),
  query('order', 'Headings with commas between, “desc” behind one for the largest first; blanks come last', text, {
    example: 'Value desc,Week',
  }),
  query('limit', 'Rows of a page; the header “Link” names the next one', {
    type: 'integer',
    minimum: 1,
    maximum: 999_999,
  }),
  query('after', 'Where a page begins, as the link to it says'),
];
const ofCsv = [
  query('separator', 'What parts values', {
    type: 'string',
    enum: ['comma', 'semicolon', 'tab', 'bar'],
    default: 'comma',
  }),
  query('decimal', 'The decimal mark', { type: 'string', enum: ['point', 'comma'], default: 'point' }),
  query('quotes', 'Which values stand in quotes', { type: 'string', enum: ['needed', 'all'], default: 'needed' }),
  query('mark', 'A byte order mark in front', { type: 'string', enum: ['yes', 'no'], default: 'no' }),
  query('lineEnds', 'How lines end', { type: 'string', enum: ['lf', 'crlf'], default: 'lf' }),
  query('trace', 'Three columns more: report, page, and what did not fit its column', {
    type: 'string',
    enum: ['yes', 'no'],
    default: 'no',
  }),
  query('guard', 'An apostrophe before texts that a spreadsheet would take for a formula', {
    type: 'string',
    enum: ['yes', 'no'],
    default: 'yes',
  }),
];

const file = (format: (typeof formats)[number]) => ({
  get: {
    operationId: `dataset_${format}`,
    summary: `The published dataset as ${formatFacts[format].title}`,
    parameters: [
      {
        name: 'name',
        in: 'path',
        required: true,
        description: 'Name of the dataset, as /datasets lists it',
        schema: text,
      },
      ...ofFiles,
      ...(format === 'csv' || format === 'tsv' ? ofCsv : []),
    ],
    responses: {
      200: {
        description: 'The rows. X-Rows says how many, X-Misfits how many error cells of the dataset are blank',
        headers: {
          ETag: { schema: text },
          'Last-Modified': { schema: text },
          'X-Rows': { schema: { type: 'integer' } },
          'X-Misfits': { schema: { type: 'integer' } },
          Link: { description: 'The next page, where there is one', schema: text },
        },
        content: { [formatFacts[format].type.split(';')[0]]: {} },
      },
      304: { description: 'Nothing was published since (If-None-Match, If-Modified-Since)' },
      400: { description: 'What is wrong with the address, in a sentence' },
      401: { description: 'A token is needed' },
      404: { description: 'There is no such dataset, or it is not published yet' },
      412: { description: 'The dataset was published anew between two pages' },
    },
  },
});

/** What other programs may ask of the published datasets (OpenAPI 3.1). */
export const openApi = {
  openapi: '3.1.0',
  info: {
    title: 'Published datasets',
    version: '1',
    description: 'The datasets that this Able Sieve has published, to be read and never to be changed.',
  },
  security: [{ bearer: [] }, { basic: [] }, { key: [] }],
  components: {
    securitySchemes: {
      bearer: { type: 'http', scheme: 'bearer' },
      basic: { type: 'http', scheme: 'basic', description: 'Any name; the token is the password' },
      key: { type: 'apiKey', in: 'query', name: 'key' },
    },
  },
  paths: {
    '/datasets': {
      get: {
        operationId: 'datasets',
        summary: 'The published datasets, with their columns',
        responses: { 200: { description: 'A list', content: { 'application/json': {} } } },
      },
    },
    ...Object.fromEntries(formats.map((format) => [`/datasets/{name}.${formatFacts[format].extension}`, file(format)])),
  },
};
