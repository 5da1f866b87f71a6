import { build, dependencies } from './prepare.mjs';

dependencies();
build();
