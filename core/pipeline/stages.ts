/** The stages that a printed number goes through on its way into the dataset. */
export type Stage = 'reading' | 'steps' | 'values' | 'formulas' | 'checks';

/** A fingerprint for each stage, over the sources that it is made of: results of two builds that have the same are the same. */
export type Stages = Readonly<Record<Stage, string>>;
