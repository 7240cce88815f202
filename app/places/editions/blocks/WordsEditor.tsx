import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { Node } from "@tiptap/core";
import { EditorContent, useEditor, useEditorState, type Editor } from "@tiptap/react";
import { TableKit } from "@tiptap/extension-table";
import StarterKit from "@tiptap/starter-kit";
import { readWords, WordsFault } from "#core/edition/readWords";
import { useLayoutEffect, useRef, useState } from "react";
import type { Chip, Words } from "#core/edition/words";
import { SERIF } from "../../../theme/theme.ts";
import { CHIP_ATTRIBUTES, type ChipChoice } from "./chipChoice.ts";

interface Props {
  words: Words;
  label: string;
  chips: readonly ChipChoice[];
  /** Goes up whenever the words were changed elsewhere. */
  taken: number;
  onChange(words: Words): void;
}

/** Changes the one stretch in which words differ from what stands in an editor. */
function putIn(editor: Editor, words: Words): void {
  const next = editor.schema.nodeFromJSON(words).content;
  const { doc, tr } = editor.state;
  const start = doc.content.findDiffStart(next);
  const ends = doc.content.findDiffEnd(next);
  if (start === null || ends === null) return;
  // The same letters before and behind: the stretch does not begin behind its end.
  const behind = Math.max(0, start - Math.min(ends.a, ends.b));
  const slice = editor.schema.nodes.doc.create(null, next).slice(start, ends.b + behind);
  editor.view.dispatch(
    tr
      .replace(start, ends.a + behind, slice)
      .setMeta("addToHistory", false)
      .setMeta("preventUpdate", true),
  );
}

const textAttribute = (name: string) => ({
  default: "",
  parseHTML: (element: HTMLElement) => element.getAttribute(`data-${name.toLowerCase()}`) ?? "",
  renderHTML: (attributes: Record<string, unknown>) => ({ [`data-${name.toLowerCase()}`]: attributes[name] as string }),
});

/** A number of the desk among words: one thing, which is not typed into. */
const ChipExtension = Node.create({
  name: "chip",
  group: "inline",
  inline: true,
  atom: true,
  addAttributes: () => Object.fromEntries(CHIP_ATTRIBUTES.map((name) => [name, textAttribute(name)])),
  parseHTML: () => [{ tag: "span[data-of]" }],
  renderHTML: ({ node, HTMLAttributes }) => ["span", { ...HTMLAttributes, class: "chip" }, (node.attrs as Chip).text],
});

/** Headings, lists, quotes, emphasis and links: what readers may be shown, and nothing else is taken from a paste. */
const EXTENSIONS = [
  StarterKit.configure({
    heading: { levels: [2, 3] },
    code: false,
    codeBlock: false,
    horizontalRule: false,
    strike: false,
    underline: false,
    link: { openOnClick: false, autolink: true, protocols: ["http", "https", "mailto"] },
  }),
  ChipExtension,
  TableKit.configure({ table: { resizable: false } }),
];

/** What is written, as it will be stored; too much of it as it is, for the sentence that refuses it. */
function wordsIn(editor: Editor): Words {
  const raw = editor.getJSON();
  try {
    return readWords(raw);
  } catch (error) {
    if (error instanceof WordsFault) return raw as unknown as Words;
    throw error;
  }
}

/** Words of a block. `/` asks for a number of the desk, which is then kept true until it is frozen. */
export function WordsEditor({ words, label, chips, taken, onChange }: Props) {
  const [asking, setAsking] = useState(false);
  const editor = useEditor({
    extensions: EXTENSIONS,
    content: words,
    immediatelyRender: false,
    // The page lets no style in that is not its own: what the editor needs is below.
    injectCSS: false,
    onUpdate: ({ editor: own }) => onChange(wordsIn(own)),
    editorProps: {
      attributes: { role: "textbox", "aria-multiline": "true", "aria-label": label },
      handleKeyDown(view, event) {
        const { $from, empty } = view.state.selection;
        const before = $from.parent.textBetween(Math.max(0, $from.parentOffset - 1), $from.parentOffset);
        if (event.key !== "/" || !empty || !(before === "" || /\s|\(/.test(before))) return false;
        event.preventDefault();
        setAsking(true);
        return true;
      },
    },
  });
  // What comes from elsewhere (a colleague, the desk) is put in where it differs: the cursor stays where it is. What is
  // typed here comes back by `words` a moment later, and is not put in once more.
  useLayoutEffect(() => {
    if (editor && taken > 0) putIn(editor, words);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [editor, taken]);
  if (!editor) return null;
  return (
    <Box>
      <Tools editor={editor} onAsk={() => setAsking(true)} />
      <Box
        sx={{
          "& .ProseMirror": {
            whiteSpace: "break-spaces",
            overflowWrap: "break-word",
            fontVariantLigatures: "none",
            fontFamily: SERIF,
            fontSize: "1.05rem",
            lineHeight: 1.5,
            minHeight: 72,
            outline: "none",
            borderBottom: 1,
            borderColor: "divider",
            py: 0.5,
          },
          "& .ProseMirror:focus": { borderColor: "text.primary" },
          "& p": { m: 0, mb: 1 },
          "& h2, & h3": { mt: 1.5, mb: 0.5 },
          "& blockquote": { m: 0, mb: 1, pl: 2, borderLeft: 2, borderColor: "divider" },
          "& table": { borderCollapse: "collapse", width: "100%", tableLayout: "fixed", mb: 1 },
          "& td, & th": {
            border: 1,
            borderColor: "divider",
            px: 0.75,
            py: 0.25,
            textAlign: "left",
            verticalAlign: "top",
          },
          "& td p, & th p": { m: 0 },
          "& .chip": { fontWeight: 600, borderBottom: "1px dotted", whiteSpace: "nowrap" },
        }}
      >
        <EditorContent editor={editor} />
      </Box>
      {asking && <AskChip chips={chips} editor={editor} onDone={() => setAsking(false)} />}
    </Box>
  );
}

function Tools({ editor, onAsk }: { editor: Editor; onAsk(): void }) {
  const on = useEditorState({
    editor,
    selector: ({ editor: own }) => ({
      heading: own.isActive("heading"),
      bulletList: own.isActive("bulletList"),
      orderedList: own.isActive("orderedList"),
      blockquote: own.isActive("blockquote"),
      table: own.isActive("table"),
      bold: own.isActive("bold"),
      italic: own.isActive("italic"),
    }),
  });
  const chain = () => editor.chain().focus();
  const tools = [
    ["Heading", on.heading, () => chain().toggleHeading({ level: 2 }).run()],
    ["Bold", on.bold, () => chain().toggleBold().run()],
    ["Italic", on.italic, () => chain().toggleItalic().run()],
    ["List", on.bulletList, () => chain().toggleBulletList().run()],
    ["Steps", on.orderedList, () => chain().toggleOrderedList().run()],
    ["Quote", on.blockquote, () => chain().toggleBlockquote().run()],
    ...(on.table ? withinTable(editor) : [["Table", false, () => chain().insertTable(NEW_TABLE).run()] as const]),
  ] as const;
  return (
    <Box role="toolbar" aria-label="Form of these words" sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
      {tools.map(([name, pressed, run]) => (
        <Button
          key={name}
          variant="text"
          aria-pressed={pressed}
          onClick={run}
          sx={{ textDecoration: pressed ? "underline" : "none", minWidth: 0 }}
        >
          {name}
        </Button>
      ))}
      <Button variant="text" onClick={onAsk} title="/">
        Put in a number
      </Button>
    </Box>
  );
}

const NEW_TABLE = { rows: 3, cols: 3, withHeaderRow: true };

function withinTable(editor: Editor): (readonly [string, boolean, () => void])[] {
  const chain = () => editor.chain().focus();
  return [
    ["Row below", false, () => chain().addRowAfter().run()],
    ["Column after", false, () => chain().addColumnAfter().run()],
    ["Row out", false, () => chain().deleteRow().run()],
    ["Column out", false, () => chain().deleteColumn().run()],
    ["Table out", false, () => chain().deleteTable().run()],
  ];
}

/** Which number: typed, chosen by Enter, and the writing goes on behind it. */
function AskChip({ chips, editor, onDone }: { chips: readonly ChipChoice[]; editor: Editor; onDone(): void }) {
  const taken = useRef(false);
  return (
    <Autocomplete<ChipChoice>
      open
      autoHighlight
      options={[...chips]}
      getOptionLabel={({ name, text }) => `${name} ${text}`}
      getOptionKey={({ market, of, id, part }) => `${market} ${of} ${id} ${part}`}
      noOptionsText="No number of this edition's markets is called so."
      onChange={(_event, chip) => {
        if (!chip) return;
        taken.current = true;
        const { name: _, ...attrs } = chip;
        onDone();
        editor.chain().focus().insertContent({ type: "chip", attrs }).run();
      }}
      onClose={(_event, reason) => {
        if (taken.current) return;
        onDone();
        if (reason === "escape") editor.commands.focus();
      }}
      renderInput={(params) => (
        <TextField {...params} autoFocus label="A number of the desk" sx={{ mt: 1, maxWidth: 520 }} />
      )}
    />
  );
}
