import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { Inline, TableCell, TextNode, Words, WordsNode } from "#core/edition/words";
import { SERIF } from "../theme/theme.ts";

/** In the place of a number that a reader's plan does not show. */
const WITHHELD = "[for other plans]";

/** Words of an edition as they are read. Nothing of them is markup: they are a tree, and drawn from it. */
export function WordsView({ words, small = false }: { words: Words; small?: boolean }) {
  const size = small ? "1rem" : "1.08rem";
  return (
    <Box sx={{ fontFamily: SERIF, fontSize: size, lineHeight: 1.5, maxWidth: 760, overflowWrap: "anywhere" }}>
      {words.content.map((node, i) => (
        <Node key={i} node={node} />
      ))}
    </Box>
  );
}

function Node({ node }: { node: WordsNode }): ReactNode {
  switch (node.type) {
    case "heading":
      return (
        <Typography variant={node.attrs.level === 2 ? "h2" : "h3"} sx={{ mt: 2, mb: 0.5 }}>
          <Inlines of={node.content} />
        </Typography>
      );
    case "paragraph":
      return (
        <Box component="p" sx={{ m: 0, mb: 1.25 }}>
          <Inlines of={node.content} />
        </Box>
      );
    case "blockquote":
      return (
        <Box component="blockquote" sx={{ m: 0, mb: 1.25, pl: 2, borderLeft: 2, borderColor: "divider" }}>
          {node.content.map((one, i) => (
            <Node key={i} node={one} />
          ))}
        </Box>
      );
    case "table":
      return (
        <Box component="table" sx={{ borderCollapse: "collapse", mb: 1.25, fontSize: "0.95em", maxWidth: "100%" }}>
          <tbody>
            {node.content.map((row, i) => (
              <tr key={i}>
                {row.content.map((cell, n) => (
                  <Cell key={n} cell={cell} />
                ))}
              </tr>
            ))}
          </tbody>
        </Box>
      );
    case "bulletList":
    case "orderedList":
      return (
        <Box component={node.type === "bulletList" ? "ul" : "ol"} sx={{ mt: 0, mb: 1.25, pl: 3, "& p": { mb: 0.5 } }}>
          {node.content.map((item, i) => (
            <li key={i}>
              {item.content.map((one, n) => (
                <Node key={n} node={one} />
              ))}
            </li>
          ))}
        </Box>
      );
  }
}

/** A cell under a rule; figures stand under each other. */
function Cell({ cell: { type, content } }: { cell: TableCell }) {
  const isHead = type === "tableHeader";
  return (
    <Box
      component={isHead ? "th" : "td"}
      scope={isHead ? "col" : undefined}
      sx={{
        ...{ textAlign: "left", verticalAlign: "top", pr: 2, py: 0.25, fontVariantNumeric: "tabular-nums" },
        ...{ borderBottom: isHead ? "1.5px solid" : "1px solid", borderColor: isHead ? "text.primary" : "divider" },
      }}
    >
      {content.map((line, i) => (
        <div key={i}>
          <Inlines of={line.content} />
        </div>
      ))}
    </Box>
  );
}

function Inlines({ of = [] }: { of?: Inline[] | undefined }) {
  return of.map((node, i) => {
    if (node.type === "hardBreak") return <br key={i} />;
    // A number stays in one line.
    if (node.type === "chip")
      return (
        <Box key={i} component="span" sx={{ whiteSpace: "nowrap", fontWeight: 600 }}>
          {(node.attrs.text as string | undefined) ?? WITHHELD}
        </Box>
      );
    return <Emphasised key={i} node={node} />;
  });
}

function Emphasised({ node: { text, marks = [] } }: { node: TextNode }) {
  return marks.reduce<ReactNode>((inner, mark) => {
    if (mark.type === "bold") return <strong>{inner}</strong>;
    if (mark.type === "italic") return <em>{inner}</em>;
    return (
      <MuiLink href={mark.attrs.href} rel="noopener nofollow">
        {inner}
      </MuiLink>
    );
  }, text);
}
