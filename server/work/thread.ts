// What worker threads of the pool do: every task and every look, by its name.
// The parser leaves promises of damaged parts that nobody waits for; what it could not read is told by its answers.
process.on('unhandledRejection', () => undefined);

export * from './tasks/all';
export * from './looks/all';
