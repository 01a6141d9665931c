<script setup lang="ts">
// A text of paragraphs with bold, italics, links, lists and quotations; what else is pasted is left
// out. The server cleans it again.
import StarterKit from "@tiptap/starter-kit";
import { EditorContent, useEditor } from "@tiptap/vue-3";
import { ref, watch } from "vue";

const props = defineProps<{ label: string; readonly?: boolean }>();
const html = defineModel<string>({ required: true });
const linking = ref(false);
const address = ref("");

const editor = useEditor({
  content: html.value,
  editable: !props.readonly,
  extensions: [
    StarterKit.configure({
      heading: false,
      code: false,
      codeBlock: false,
      horizontalRule: false,
      strike: false,
      underline: false,
      link: { openOnClick: false, protocols: ["http", "https", "mailto"] },
    }),
  ],
  editorProps: {
    attributes: { role: "textbox", "aria-multiline": "true", "aria-label": props.label },
  },
  onUpdate: ({ editor: e }) => (html.value = e.isEmpty ? "" : e.getHTML()),
});
// Somebody else's text, or one from before, is taken over.
watch(html, (to) => {
  const now = editor.value?.isEmpty ? "" : editor.value?.getHTML();
  if (editor.value && to !== now) editor.value.commands.setContent(to, { emitUpdate: false });
});

const ACTS = [
  { name: "bold", title: "Bold", go: () => editor.value?.chain().focus().toggleBold().run() },
  { name: "italic", title: "Italic", go: () => editor.value?.chain().focus().toggleItalic().run() },
  {
    name: "bulletList",
    title: "List",
    go: () => editor.value?.chain().focus().toggleBulletList().run(),
  },
  {
    name: "orderedList",
    title: "Numbered",
    go: () => editor.value?.chain().focus().toggleOrderedList().run(),
  },
  {
    name: "blockquote",
    title: "Quotation",
    go: () => editor.value?.chain().focus().toggleBlockquote().run(),
  },
] as const;

/** Plain words where the cursor is. */
const insert = (text: string) =>
  editor.value?.chain().focus().insertContent({ type: "text", text }).run();

function askLink(): void {
  address.value = String(editor.value?.getAttributes("link").href ?? "");
  linking.value = true;
}
function setLink(): void {
  const chain = editor.value?.chain().focus().extendMarkRange("link");
  if (address.value.trim()) chain?.setLink({ href: address.value.trim() }).run();
  else chain?.unsetLink().run();
  linking.value = false;
}
</script>

<template>
  <div class="rich">
    <div
      v-if="!readonly"
      class="d-flex flex-wrap ga-3 pb-1"
      role="group"
      :aria-label="`Marks of ${label}`"
    >
      <TextAction
        v-for="act in ACTS"
        :key="act.name"
        class="small"
        :aria-pressed="editor?.isActive(act.name) ?? false"
        @click="act.go"
        >{{ act.title }}</TextAction
      >
      <TextAction class="small" :aria-pressed="editor?.isActive('link') ?? false" @click="askLink"
        >Link</TextAction
      >
      <TextAction class="small" @click="insert('[^ The note.]')">Footnote</TextAction>
      <slot name="acts" :insert="insert" />
    </div>
    <v-form v-if="linking" class="d-flex ga-2 pb-1 align-center" @submit.prevent="setLink">
      <v-text-field v-model="address" label="Address of the link" hide-details autofocus />
      <v-btn type="submit" height="30">Set</v-btn>
    </v-form>
    <EditorContent :editor="editor" class="words" />
  </div>
</template>

<style scoped>
.words :deep(.ProseMirror) {
  border: 1px solid var(--rule);
  background: var(--sheet);
  padding: 8px 10px;
  min-height: 64px;
  outline-offset: 1px;
}
.words :deep(p) {
  margin: 0 0 6px;
}
.words :deep(:is(ul, ol)) {
  padding-left: 20px;
}
.words :deep(blockquote) {
  border-left: 2px solid var(--rule);
  padding-left: 10px;
}
.rich [role="group"] .v-btn {
  min-height: 24px;
}
.rich [aria-pressed="true"] {
  font-weight: 650;
}
</style>
