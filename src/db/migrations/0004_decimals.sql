-- Formulas hold 34 digits and round half to even (DMN 1.5, 10.3.2.3.1); a numeric holds any number of them. What a
-- formula's search works out is cut to the same digits, so that PostgreSQL and the closures pick the same rows.
create function decimal34(x numeric) returns numeric language plpgsql immutable strict parallel safe as $$
declare
  places int;
  unit numeric;
  scaled numeric;
  whole numeric;
  rest numeric;
begin
  if char_length(translate(trim_scale(x)::text, '-.', '')) <= 34 then return x; end if;
  if abs(x) >= 1 then
    places := 34 - char_length(trunc(abs(x))::text);
  else
    places := 34 + char_length(substring(trim_scale(abs(x))::text from '^0\.(0*)'));
  end if;
  unit := ('1e' || places)::numeric;
  scaled := x * unit;
  whole := trunc(scaled);
  rest := abs(scaled - whole);
  if rest > 0.5 then whole := whole + sign(x);
  elsif rest = 0.5 then whole := whole + whole % 2;
  end if;
  return trim_scale(whole * ('1e' || -places)::numeric);
end $$;
