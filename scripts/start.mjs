import { build, dependencies } from './prepare.mjs';
import { serve } from './serve.mjs';

dependencies();
build();
serve(process.argv.slice(2));
