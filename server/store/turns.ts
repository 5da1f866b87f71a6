/** So many may go before one that is patient; then it has its turn, so that it comes to an end. */
const fair = 8;

interface Waiting {
  readonly begin: () => Promise<void>;
}

/** One at a time, in the order asked for; those that are patient let the others go first. */
export class Turns {
  private readonly urgent: Waiting[] = [];
  private readonly patient: Waiting[] = [];
  private passed = 0;
  private under: Promise<void> | undefined;

  /** Does the work once its turn has come. */
  take<T>(work: () => Promise<T>, patient = false): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      (patient ? this.patient : this.urgent).push({ begin: () => Promise.resolve().then(work).then(resolve, reject) });
      this.next();
    });
  }

  /** Nobody waits any more. */
  async idle(): Promise<void> {
    while (this.under) await this.under;
  }

  private next(): void {
    if (this.under) return;
    const late = this.patient.length > 0 && (this.urgent.length === 0 || this.passed >= fair);
    const waiting = late ? this.patient.shift() : this.urgent.shift();
    if (!waiting) return;
    this.passed = late || this.patient.length === 0 ? 0 : this.passed + 1;
    this.under = waiting.begin().then(() => {
      this.under = undefined;
      this.next();
    });
  }
}
