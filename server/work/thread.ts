// What worker threads of the pool do: every task and every look, by its name.
export * from './tasks/all';
export * from './looks/all';
