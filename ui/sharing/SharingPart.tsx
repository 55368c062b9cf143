"use client";

import { useQuery } from "@tanstack/react-query";
import { sharingOperations } from "@/contract/sharing";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { FreeForm } from "./FreeForm";
import { TemplatesForm } from "./TemplatesForm";
import { WordsForm } from "./WordsForm";

/** What a new share begins with, by label; and which requests need nobody’s approval. */
export function SharingPart() {
  const { data, error } = useQuery(asked(sharingOperations.sharingSettings));
  return (
    <section aria-labelledby="sharing" className="max-w-4xl">
      <h1 id="sharing" className="mb-1 text-[20px] font-semibold">
        Sharing
      </h1>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <>
          <TemplatesForm key={JSON.stringify(data.templates)} first={data.templates} />
          <WordsForm key={data.words} first={data.words} />
          <FreeForm key={JSON.stringify(data.free)} first={data.free} />
        </>
      )}
    </section>
  );
}
