"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

/** Searches as one types; what is searched for stands in the address. */
export function SearchBox({
  label,
  value,
  path,
  params,
}: {
  label: string;
  value: string;
  path: string;
  params: Record<string, string>;
}) {
  const router = useRouter();
  const [text, setText] = useState(value);
  const sent = useRef(value);
  const query = JSON.stringify(params);
  useEffect(() => {
    if (text === sent.current) return;
    const timer = setTimeout(() => {
      sent.current = text;
      router.replace(
        `${path}?${new URLSearchParams({ ...(JSON.parse(query) as Record<string, string>), ...(text ? { q: text } : {}) })}`,
        { scroll: false },
      );
    }, 250);
    return () => clearTimeout(timer);
  }, [text, path, query, router]);
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={label}
      className="input max-w-64"
      value={text}
      onChange={(e) => setText(e.target.value)}
    />
  );
}
