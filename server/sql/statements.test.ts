import { describe, expect, it } from 'vitest';
import { statementsOf, understood } from './statements';

const refused = (sql: string) => understood(sql).refused;

describe('a statement of another program', () => {
  it.each([
    'select 1',
    '  -- a remark\n (select 1 union select 2)',
    'with x as (select 1) select * from x; show timezone;',
    'begin; select 1; commit',
    'START TRANSACTION READ ONLY',
    'set session characteristics as transaction isolation level repeatable read',
    "set datestyle to 'ISO'",
    "SET client_encoding TO 'UTF8'",
    "set names 'utf8'",
    "set time zone 'UTC'",
    'set extra_float_digits = 3',
    'set default_transaction_read_only to on',
    'reset all',
    'copy published.landings to stdout',
    'copy (select a from (select 1 as a) b) to stdout with (format csv)',
    'declare c cursor for select 1',
    "explain select 'insert into x; drop table y'",
    'select $$ ; drop table x $$, $a$ $$ ; $a$, /* ; /* drop */ ; */ 1',
    "select E'it\\'s; drop', 'it''s; drop', \"a;b\"",
    '',
    ';;',
    'deallocate "stmt 1"',
    'unlisten *',
  ])('that looks is run: %s', (sql) => {
    expect(refused(sql)).toBeUndefined();
  });

  it.each([
    ['insert into x values (1)', 'INSERT is not run here'],
    ['select 1; drop table x', 'DROP is not run here'],
    ["select ';' ; vacuum", 'VACUUM is not run here'],
    ["select E'\\'; delete from x; --'; truncate x", 'TRUNCATE is not run here'],
    ["select 'a\\'; delete from x", 'DELETE is not run here'],
    ['select $a$ $b$ ; $a$ ; grant all on x to y', 'GRANT is not run here'],
    ['/* /* */ select 1; */ do $$ begin end $$', 'DO is not run here'],
    ['prepare p as select 1', 'PREPARE is not run here'],
    ['set role postgres', '"role" cannot be set here'],
    ['set "role" to postgres', '"role" cannot be set here'],
    ['set u&"\\0072ole" to postgres', 'cannot be set here'],
    ['set local role postgres', '"role" cannot be set here'],
    ['reset role', '"role" cannot be set here'],
    ['set session authorization postgres', '"authorization" cannot be set here'],
    ['reset session authorization', '"authorization" cannot be set here'],
    ['set local session authorization default', '"session" cannot be set here'],
    ['set standard_conforming_strings = off', '"standard_conforming_strings" cannot be set here'],
    ["set client_encoding = 'SJIS'", 'texts go as UTF8 here'],
    ['discard all', 'DISCARD is not run here'],
    ['copy x from stdin', 'COPY writes here to STDOUT only'],
    ["copy x to '/tmp/file'", 'COPY writes here to STDOUT only'],
    ["copy x to program 'rm'", 'COPY writes here to STDOUT only'],
    ["copy (select 1) to '/tmp/stdout'", 'COPY writes here to STDOUT only'],
    ['declare c cursor with hold for select 1', 'a cursor WITH HOLD is not kept here'],
    ["select 'no end", 'a quote or comment in the statement has no end'],
    ['select 1 /* no end', 'a quote or comment in the statement has no end'],
    ['select $x$ no end', 'a quote or comment in the statement has no end'],
  ])('that does more is refused by name: %s', (sql, because) => {
    expect(refused(sql)).toContain(because);
  });

  it('is taken apart as PostgreSQL takes it apart', () => {
    expect(statementsOf(`Select "A b", 'it''s', 1.5, $1, x::text /* a /* b */ c */ from T; -- end\nshow all`)).toEqual([
      ['select', '"A b"', ',', "'it''s'", ',', '1.5', ',', '$1', ',', 'x', ':', ':', 'text', 'from', 't'],
      ['show', 'all'],
    ]);
  });

  it('says what it sets, and which prepared statements it lets go', () => {
    expect(understood("set datestyle to 'ISO'; select 1")).toEqual({ sets: true, lets: [] });
    expect(understood('deallocate prepare "S 1"; deallocate all')).toEqual({ sets: false, lets: ['S 1', 'all'] });
  });
});
