import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { WrittenTerms } from "#core/written/written";
import type { OwnSentence } from "../../../../server/desk/sentences.ts";
import { failureText, postJson } from "../../../parts/post.ts";

const ADDRESS = "/sentences";
const NONE: readonly OwnSentence[] = [];

/** The sentences an analyst keeps, and keeping or letting go of one. */
export function useOwnSentences() {
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const { data = NONE } = useQuery<OwnSentence[]>({ queryKey: [ADDRESS] });
  const anew = () => queries.invalidateQueries({ queryKey: [ADDRESS] });
  return {
    own: data,
    said,
    async keep(name: string, terms: WrittenTerms): Promise<void> {
      const kept = await postJson<OwnSentence>(ADDRESS, { name: name.slice(0, 60), terms });
      setSaid(kept.ok ? `"${kept.value.name}" is among your sentences.` : failureText(kept.failure));
      await anew();
    },
    async drop(id: string): Promise<void> {
      await fetch(ADDRESS, {
        method: "DELETE",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ id }),
      });
      await anew();
    },
  };
}
