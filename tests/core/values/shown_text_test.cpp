// What strangers' texts become before anybody reads them: nothing may hide, turn around or run together.
#include "core/values/shown_text.h"

#include <gtest/gtest.h>

#include <string>

namespace {

using core::escapedHidden;
using core::shownLine;
using core::shownText;

TEST(ShownTexts, LeaveWhatCanBeReadAsItIs) {
  for (const char* text : {"", "plain", "Ünïcödé − “quoted”", "日本語", "\xF0\x9F\x94\xA7", "\xEF\xBF\xBD"}) {
    EXPECT_EQ(shownText(text), text);
    EXPECT_EQ(shownLine(text), text);
  }
  EXPECT_EQ(shownText("two\nlines\tand a tab"), "two\nlines\tand a tab");
}

TEST(ShownTexts, MakeSignsOfControlCharacters) {
  EXPECT_EQ(shownLine("a\nb\tc"), "a␊b␉c");
  EXPECT_EQ(shownText("a\x1B[31mb\r\x07\x7F"), "a␛[31mb␍␇␡");
  EXPECT_EQ(shownText(std::string_view("\0", 1)), "␀");
}

TEST(ShownTexts, NameWhatHasNoWidthOrTurnsTheReading) {
  EXPECT_EQ(shownText("a\u202Eb"), "a⟨U+202E⟩b");  // right to left from here on
  EXPECT_EQ(shownText("\uFEFF\u200B\u2066"), "⟨U+FEFF⟩⟨U+200B⟩⟨U+2066⟩");
  EXPECT_EQ(shownText("\u0085\u00AD\u061C"), "⟨U+0085⟩⟨U+00AD⟩⟨U+061C⟩");
  EXPECT_EQ(shownText("\U000E0041"), "⟨U+E0041⟩");  // a tag, which nobody sees
  // Their neighbours are letters like others.
  for (const char* text : {"\u00A0", "\u200A", "\u2010", "\u2027", "\u202F", "\u205F", "\u2070"})
    EXPECT_EQ(shownText(text), text);
}

// RFC 3629: no byte alone, no longer form than needed, no half of a pair, nothing beyond the last character.
TEST(ShownTexts, MarkBytesThatAreNoText) {
  const std::string mark = "\xEF\xBF\xBD";
  EXPECT_EQ(shownText("a\xFFz"), "a" + mark + "z");
  EXPECT_EQ(shownText("\xC3"), mark);                        // cut short
  EXPECT_EQ(shownText("\xC3z"), mark + "z");                 // goes on with something else
  EXPECT_EQ(shownText("\xC0\xAF"), mark + mark);             // '/' in two bytes
  EXPECT_EQ(shownText("\xE0\x9F\xBF"), mark + mark + mark);  // two bytes would do
  EXPECT_EQ(shownText("\xF0\x8F\xBF\xBF"), mark + mark + mark + mark);
  EXPECT_EQ(shownText("\xED\xA0\x80"), mark + mark + mark);             // half of a pair
  EXPECT_EQ(shownText("\xF4\x90\x80\x80"), mark + mark + mark + mark);  // beyond U+10FFFF
  EXPECT_EQ(shownText("\xF4\x8F\xBF\xBF"), "\xF4\x8F\xBF\xBF");         // the last one
  EXPECT_EQ(shownText("\xED\x9F\xBF\xEE\x80\x80"), "\xED\x9F\xBF\xEE\x80\x80");
}

TEST(ShownWords, StandInQuotesWhereTheirEndsCouldBeMistaken) {
  EXPECT_EQ(core::shownWord("--size=4k"), "--size=4k");
  EXPECT_EQ(core::shownWord("{log}"), "{log}");
  EXPECT_EQ(core::shownWord(""), "\"\"");
  EXPECT_EQ(core::shownWord("two words"), "\"two words\"");
  EXPECT_EQ(core::shownWord("a;b"), "\"a;b\"");
  EXPECT_EQ(core::shownWord("say \"no\" \\"), "\"say \\\"no\\\" \\\\\"");
  EXPECT_EQ(core::shownWord("a\nb"), "\"a␊b\"");
}

TEST(HiddenSigns, StandEscapedInJson) {
  EXPECT_EQ(escapedHidden("plain\n"), "plain\n");
  EXPECT_EQ(escapedHidden("a\u202Eb"), "a\\u202eb");
  EXPECT_EQ(escapedHidden("a\x7F"), "a\\u007f");
  EXPECT_EQ(escapedHidden("é\x7F"), "é\\u007f");
  EXPECT_EQ(escapedHidden("\U000E0041"), "\\udb40\\udc41");
  EXPECT_EQ(escapedHidden("Größe −"), "Größe −");
  EXPECT_EQ(escapedHidden("\xFF"), "\xFF");
}

TEST(CutTexts, CutNoCharacter) {
  EXPECT_EQ(core::cutText("short", 5), "short");
  EXPECT_EQ(core::cutText("longer", 4), "long");
  EXPECT_EQ(core::cutText("aé", 2), "a");
  EXPECT_EQ(core::cutText("aé", 3), "aé");
  EXPECT_EQ(core::cutText("日本", 5), "日");
  EXPECT_EQ(core::cutText("日", 2), "");
}

}  // namespace
