import { readFile } from 'node:fs/promises';
import * as v from 'valibot';
import { faultsOf, parsePipeline, type Pipeline } from '../../core/pipeline/document';

/** Reads a pipeline document. @throws Error with one sentence that names the fault */
export async function pipelineFile(path: string): Promise<Pipeline> {
  const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    throw new Error(error.code === 'ENOENT' ? `There is no pipeline document ${path}.` : `${path} cannot be opened (${error.code}).`);
  });
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new Error(`${path} is not valid JSON: ${(error as Error).message}`);
  }
  try {
    return parsePipeline(json);
  } catch (error) {
    throw v.isValiError(error) ? new Error(`${path} is not a pipeline document: ${faultsOf(error)}`) : error;
  }
}
