#include "report/markdown.h"

#include <array>
#include <string_view>
#include <utility>

#include <fmt/format.h>

namespace report {
namespace {

// A name with a bracket or a blank in it would end the link.
std::string linkTo(const std::string& file) {
  std::string link;
  for (const char c : file) {
    if (std::string_view(" ()<>[]%\"\\").find(c) == std::string_view::npos && static_cast<unsigned char>(c) >= 32)
      link += c;
    else
      link += fmt::format("%{:02X}", static_cast<unsigned>(static_cast<unsigned char>(c)));
  }
  return link;
}

/// Reads the markup that Html writes, tag after tag.
class Markdown {
 public:
  Markdown(std::string_view page, const std::string& picture) : page_(page), picture_(picture) {}

  std::string made() {
    at_ = page_.find("<body>");
    while (at_ < page_.size()) {
      if (page_[at_] == '<')
        tag();
      else
        letter();
    }
    return std::move(out_);
  }

 private:
  [[nodiscard]] bool startsWith(std::string_view text) const { return page_.substr(at_, text.size()) == text; }
  void skipPast(std::string_view text) {
    const std::size_t end = page_.find(text, at_);
    at_ = end == std::string_view::npos ? page_.size() : end + text.size();
  }

  void tag() {
    const std::size_t end = std::min(page_.find_first_of(" >", at_), page_.size());
    const std::string_view name = page_.substr(at_ + 1, end - at_ - 1);
    if (name == "svg") {
      if (!std::exchange(has_picture_, true)) out_ += fmt::format("![The chart]({})\n\n", linkTo(picture_));
      return skipPast("</svg>");
    }
    skipPast(">");
    if (name == "h1") out_ += "# ";
    if (name == "h2") out_ += "\n## ";
    if (name == "li") out_ += "- ";
    if (name == "/h1" || name == "/h2" || name == "/p" || name == "/ul" || name == "/table") out_ += "\n\n";
    if (name == "/li" && !startsWith("</ul>")) out_ += '\n';
    if (name == "table") is_head_ = true;
    if (name == "tr") {
      out_ += "|";
      cells_ = 0;
    }
    if (name == "td" || name == "th") out_ += ' ';
    if (name == "/td" || name == "/th") {
      out_ += " |";
      ++cells_;
    }
    if (name == "/tr") endRow();
  }

  // A table's first row is its head, whatever stands in it.
  void endRow() {
    if (std::exchange(is_head_, false)) {
      out_ += "\n|";
      for (int i = 0; i < cells_; ++i) out_ += " --- |";
    }
    if (!startsWith("\n</table>") && !startsWith("</table>")) out_ += '\n';
  }

  void letter() {
    // What keeps words together on a page is a plain blank in plain text.
    constexpr std::array<std::pair<std::string_view, std::string_view>, 6> kNamed{
        {{"&amp;", "&amp;"}, {"&lt;", "&lt;"}, {"&gt;", "&gt;"}, {"&quot;", "\""}, {"&nbsp;", " "}, {"\u00a0", " "}}};
    for (const auto& [entity, text] : kNamed)
      if (startsWith(entity)) {
        out_ += text;
        at_ += entity.size();
        return;
      }
    const char c = page_[at_++];
    if (c == '\n') return;  // the page's own lines: texts have none
    // What Markdown would read as more than a letter.
    if (std::string_view("\\`*_[]|~#").find(c) != std::string_view::npos) out_ += '\\';
    out_ += c;
  }

  std::string_view page_;
  const std::string& picture_;
  std::size_t at_ = 0;
  int cells_ = 0;
  bool is_head_ = false;
  bool has_picture_ = false;
  std::string out_;
};

}  // namespace

std::string markdownOf(const std::string& page, const std::string& picture) { return Markdown(page, picture).made(); }

}  // namespace report
