import { readFile } from 'node:fs/promises';
import * as v from 'valibot';
import { faultsOf, parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { faultyText, faultyTextSentence } from '../../core/values/faulty-text';

/** Reads a pipeline document. @throws Error with one sentence that names the fault */
export async function pipelineFile(path: string): Promise<Pipeline> {
  const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    throw new Error(
      error.code === 'ENOENT' ? `There is no pipeline document ${path}.` : `${path} cannot be opened (${error.code}).`,
    );
  });
  let json: unknown;
  try {
    // A byte order mark before the document is how some editors save it.
    json = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new Error(`${path} is not valid JSON: ${(error as Error).message}`);
  }
  const faulty = faultyText(json);
  if (faulty) throw new Error(`${path} is not a pipeline document: ${faultyTextSentence(faulty)}`);
  try {
    return parsePipeline(json);
  } catch (error) {
    throw v.isValiError(error) ? new Error(`${path} is not a pipeline document: ${faultsOf(error)}`) : error;
  }
}
