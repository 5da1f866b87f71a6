/** The server is being stopped: nothing is begun any more. */
export class Stopping extends Error {
  constructor() {
    super('Able Sieve is being stopped. Start it again; nothing was changed.');
    this.name = 'Stopping';
  }
}
