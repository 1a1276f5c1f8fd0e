/**
 * What the code promises, held by the database too: logs of one device that never overlap, parts that follow each other, one way in a
 * file, sixty photos a job, states and times within bounds. And the columns that lists are searched and paged by.
 */

import { type Kysely, sql } from 'kysely';

/** 1970 to 2199 in epoch ms: times of samples lie in between. */
const LAST_MS = 7_258_118_400_000;
const MOST_PHOTOS = 60;
const STATES = ['receiving', 'waiting', 'reading', 'storing', 'analysing', 'asking', 'done', 'failed'];

export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db);

  // Recordings of one device never overlap while they are there. Those that did before this stay, marked.
  await run('create extension if not exists btree_gist');
  await run(`alter table recordings
    add column unweighed text,
    add column apart boolean not null default true,
    add constraint recordings_times check
      (removed_at is not null or (from_ms >= 0 and to_ms < ${LAST_MS} and from_ms <= to_ms)) not valid`);
  await run(`update recordings a set apart = false from recordings b
    where a.job_id = b.job_id and a.device = b.device and a.id <> b.id and a.removed_at is null and b.removed_at is null
      and a.from_ms <= b.to_ms and b.from_ms <= a.to_ms`);
  await run(`alter table recordings add constraint recordings_apart exclude using gist
    (job_id with =, device with =, numrange(from_ms::numeric, to_ms::numeric, '[]') with &&)
    where (removed_at is null and apart) deferrable`);

  await run(`alter table intakes
    add column device text generated always as (description->>'device') stored,
    add constraint intakes_state check (state in (${STATES.map((one) => `'${one}'`).join(', ')})),
    add constraint intakes_modified check (modified between 0 and ${LAST_MS}) not valid,
    add constraint intakes_size check (size <= 4294967296) not valid`);
  await run(`delete from intakes a using intakes b
    where a.state = 'receiving' and b.state = 'receiving' and a.job_id = b.job_id and a.device = b.device
      and a.file_name = b.file_name and a.size = b.size and a.modified = b.modified
      and (a.received, a.id) < (b.received, b.id)`);
  await run(`create unique index intakes_one_a_file on intakes (job_id, device, file_name, size, modified)
    where state = 'receiving'`);
  await run(`update intakes set question = jsonb_build_object('kind', 'overlap', 'with', question)
    where jsonb_typeof(question) = 'array'`);
  // Each part begins where another ended, or at the beginning.
  await run(`alter table intake_parts
    add column ends bigint generated always as (at + octet_length(data)) stored,
    add column follows bigint generated always as (nullif(at, 0)) stored,
    add constraint intake_parts_at check (at >= 0 and octet_length(data) > 0)`);
  await run(`alter table intake_parts add constraint intake_parts_ends unique (intake_id, ends)`);
  await run(`alter table intake_parts add constraint intake_parts_contiguous
    foreign key (intake_id, follows) references intake_parts (intake_id, ends)`);

  await run(`alter table photos add column place smallint`);
  await run(`update photos set place = numbered.place from
    (select id, row_number() over (partition by job_id order by created_at, id) as place
      from photos where removed_at is null) numbered where photos.id = numbered.id`);
  await run(`alter table photos add constraint photos_place check
    (removed_at is not null or (place is not null and place between 1 and ${MOST_PHOTOS}))`);
  await run(`create unique index photos_in_places on photos (job_id, place) where removed_at is null`);

  // Lists: what is searched, shown and sorted stands in columns of its own.
  await run(`alter table systems
    add column name text generated always as (description->>'name') stored,
    add column owner text generated always as (description->>'owner') stored,
    add column shelf text generated always as
      (coalesce(lower(description->>'owner'), U&'\\FFFD') || chr(9) || lower(description->>'name')) stored`);
  await run(`create index systems_by_shelf on systems (shelf, id)`);
  await run(`alter table jobs
    add column title text generated always as (details->>'title') stored,
    add column complaints jsonb generated always as (details->'complaints') stored`);
  // What is searched of a job stands in one place, kept by the database: its title, its system and the customer.
  await run('create extension if not exists pg_trgm');
  await run(`alter table jobs add column search text not null default ''`);
  await run(`create function jobs_search() returns trigger language plpgsql as $$ begin
    new.search := concat_ws(E'\\n', new.details->>'title',
      (select concat_ws(E'\\n', description->>'name', description->>'owner') from systems where id = new.system_id));
    return new; end $$`);
  await run(`create trigger jobs_search before insert or update of details, system_id on jobs
    for each row execute function jobs_search()`);
  await run(`create function systems_search() returns trigger language plpgsql as $$ begin
    update jobs set system_id = system_id where system_id = new.id; return null; end $$`);
  await run(`create trigger systems_search after update of description on systems for each row
    when ((old.description->>'name', old.description->>'owner') is distinct from
      (new.description->>'name', new.description->>'owner')) execute function systems_search()`);
  await run(`update jobs set system_id = system_id`);
  await run(`create index jobs_by_search on jobs using gin (search gin_trgm_ops) where removed_at is null`);
  await run(`drop index jobs_by_opening`);
  await run(`create index jobs_by_opening on jobs (opened_at desc, id desc) where removed_at is null`);
  await run(`drop index jobs_by_system`);
  await run(`create index jobs_by_system on jobs (system_id, opened_at desc, id desc)`);
  await run(`create index recordings_by_job on recordings (job_id) where removed_at is null`);
  await run(`alter table analyses add column headline jsonb, add column standing text`);
  await run(`update analyses set
      headline = jsonb_build_object('title', first->'title', 'standing', first->'standing'),
      standing = first->>'standing'
    from (select id, jsonb_path_query_first(result,
        '$.findings[*] ? (@.standing == "strong" || @.standing == "likely" || @.standing == "possible")') as first
      from analyses) found
    where found.id = analyses.id and first is not null`);
  await run(`create index analyses_by_standing on analyses (standing, job_id)`);
  await run(`drop index setting_changes_by_system`);
  await run(
    `create index setting_changes_by_system on setting_changes (system_id, changed_on desc, created_at desc, id desc)`,
  );
}

export async function down(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db);
  await run(`drop index setting_changes_by_system`);
  await run(`create index setting_changes_by_system on setting_changes (system_id)`);
  await run(`drop index analyses_by_standing`);
  await run(`alter table analyses drop column headline, drop column standing`);
  await run(`drop index recordings_by_job`);
  await run(`drop trigger systems_search on systems`);
  await run(`drop trigger jobs_search on jobs`);
  await run(`drop function systems_search`);
  await run(`drop function jobs_search`);
  await run(`drop index jobs_by_opening`);
  await run(`drop index jobs_by_system`);
  await run(`alter table jobs drop column title, drop column complaints, drop column search`);
  await run(`create index jobs_by_opening on jobs (opened_at)`);
  await run(`create index jobs_by_system on jobs (system_id)`);
  await run(`alter table systems drop column name, drop column owner, drop column shelf`);
  await run(`alter table photos drop column place`);
  await run(`alter table intake_parts drop constraint intake_parts_contiguous, drop column follows, drop column ends,
    drop constraint intake_parts_at`);
  await run(`update intakes set question = question->'with' where question->>'kind' = 'overlap'`);
  await run(`alter table intakes drop column device, drop constraint intakes_state, drop constraint intakes_modified,
    drop constraint intakes_size`);
  await run(`alter table recordings drop constraint recordings_apart, drop constraint recordings_times, drop column apart,
    drop column unweighed`);
}
