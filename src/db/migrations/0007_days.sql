-- Dates that a search works out, as the number of days since 1970-01-01: formulas know the dates from -271821-04-19 to
-- 275760-09-13, a date of the database begins at 4713 BC. Beyond them a formula has no value, and so has a search.
create function day_of(d date) returns bigint language sql immutable strict parallel safe as $$
  select case when isfinite(d) then (d - date '1970-01-01')::bigint end
$$;

create function day_known(n numeric) returns bigint language sql immutable strict parallel safe as $$
  select case when n between -100000001 and 100000000 then n::bigint end
$$;

-- Year, month and day of the month of the proleptic Gregorian calendar, by eras of 400 years that begin in March.
create function civil_of(n bigint, out y bigint, out m int, out d int)
language plpgsql immutable strict parallel safe as $$
declare
  z bigint := n + 719468;
  era bigint := (case when z >= 0 then z else z - 146096 end) / 146097;
  doe bigint := z - era * 146097;
  yoe bigint := (doe - doe / 1460 + doe / 36524 - doe / 146096) / 365;
  doy bigint := doe - (365 * yoe + yoe / 4 - yoe / 100);
  mp bigint := (5 * doy + 2) / 153;
begin
  d := doy - (153 * mp + 2) / 5 + 1;
  m := case when mp < 10 then mp + 3 else mp - 9 end;
  y := yoe + era * 400 + case when m <= 2 then 1 else 0 end;
end $$;

create function day_from_civil(year bigint, month int, day int) returns bigint
language plpgsql immutable strict parallel safe as $$
declare
  y bigint := year - case when month <= 2 then 1 else 0 end;
  era bigint := (case when y >= 0 then y else y - 399 end) / 400;
  yoe bigint := y - era * 400;
  doy bigint := (153 * (case when month > 2 then month - 3 else month + 9 end) + 2) / 5 + day - 1;
begin
  return era * 146097 + yoe * 365 + yoe / 4 - yoe / 100 + doy - 719468;
end $$;

-- A day some whole months later or earlier; where its month has no such day, the last one it has.
create function day_plus_months(n bigint, months numeric) returns bigint
language plpgsql immutable strict parallel safe as $$
declare
  c record;
  total bigint;
  year bigint;
  month int;
  last bigint;
begin
  if abs(months) > 7000000 then return null; end if;
  select * into c from civil_of(n);
  total := c.y * 12 + c.m - 1 + months::bigint;
  year := floor(total / 12.0);
  month := total - year * 12 + 1;
  last := day_from_civil(year + month / 12, month % 12 + 1, 1) - day_from_civil(year, month, 1);
  return day_known(day_from_civil(year, month, least(c.d, last)::int));
end $$;

create function day_part(n bigint, part text) returns numeric language sql immutable strict parallel safe as $$
  select case part
    when 'year' then (select y from civil_of(n))
    when 'month' then (select m from civil_of(n))
    when 'day' then (select d from civil_of(n))
    else (((n + 3) % 7) + 7) % 7 + 1
  end::numeric
$$;

-- As in 0004; and what is beyond all numbers of a formula (10 to the 6145th) has no value, as it has none there.
create or replace function decimal34(x numeric) returns numeric language plpgsql immutable strict parallel safe as $$
declare
  places int;
  unit numeric;
  scaled numeric;
  whole numeric;
  rest numeric;
begin
  if abs(x) >= '1e6145'::numeric then return null; end if;
  if scale(x) <= 6176 and char_length(translate(trim_scale(x)::text, '-.', '')) <= 34 then return x; end if;
  if abs(x) >= 1 then
    places := 34 - char_length(trunc(abs(x))::text);
  else
    places := 34 + char_length(substring(trim_scale(abs(x))::text from '^0\.(0*)'));
  end if;
  places := least(places, 6176);
  unit := ('1e' || places)::numeric;
  scaled := x * unit;
  whole := trunc(scaled);
  rest := abs(scaled - whole);
  if rest > 0.5 then whole := whole + sign(x);
  elsif rest = 0.5 then whole := whole + whole % 2;
  end if;
  return trim_scale(whole * ('1e' || -places)::numeric);
end $$;
