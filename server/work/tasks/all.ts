// What threads do for a folder, a file each: the pool knows them from here.
export { carry } from './carry';
export { differences } from './differences';
export { facts } from './facts';
export { find } from './find';
export { list } from './list';
export { page } from './page';
export { propose } from './propose';
export { read } from './read';
export { stamp } from './stamp';
export { started } from './started';
export { summary } from './summary';
export { whole } from './whole';
export { workOut } from './work-out';
