#pragma once

#include <cstddef>
#include <string>
#include <vector>

namespace report {

struct Palette;

/// How a page begins: its title, and its looks in one table of colours.
[[nodiscard]] std::string pageHead(const std::string& title, const Palette& palette);

/// A page as it grows: every text is escaped on its way in.
class Html {
 public:
  void heading(const std::string& words);
  /// `kind`: a class of the page's style, "soft" or "strong"; empty for none.
  void paragraph(const std::string& words, const char* kind = "");
  void list(const std::vector<std::string>& items);
  /// A paragraph with a list under it; nothing where the list is empty.
  void sentences(const std::string& title, const std::vector<std::string>& said);
  /// A row of a table: its first `words` cells are text, the others numbers that stay on one line.
  void row(const std::vector<std::string>& cells, const char* tag = "td", std::size_t words = 1);
  /// Markup that is made elsewhere.
  void raw(const std::string& markup) { text_ += markup; }
  [[nodiscard]] const std::string& text() const { return text_; }

  /// Markup of a sentence: it may break anywhere but between a number and its percent sign.
  [[nodiscard]] static std::string sentence(const std::string& words);
  /// A number, its unit and its interval stay on one line; a sentence may break.
  [[nodiscard]] static std::string unbroken(std::string text);

 private:
  std::string text_;
};

}  // namespace report
