/** Answers as soon as a thread can answer anything. */
export const started = async (_: object): Promise<void> => undefined;
