-- What people may ask for is a part of the directory with a version of its own: every Ask page needs it, and it changes
-- only with a release.
create trigger bump after insert or update or delete on process for each statement execute function bump_directory('offered');
