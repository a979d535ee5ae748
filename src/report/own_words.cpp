#include "report/own_words.h"

#include <vector>

namespace report {
namespace {

/// What was read and is not on the page yet.
struct Pending {
  Html& page;
  std::string paragraph = {};
  std::vector<std::string> items = {};

  void put() {
    if (!paragraph.empty()) page.paragraph(paragraph);
    page.list(items);
    paragraph.clear();
    items.clear();
  }
};

void takeLine(Pending& pending, const std::string& line) {
  if (line.find_first_not_of(" \t\r") == std::string::npos) return pending.put();
  if (line.starts_with("# ")) {
    pending.put();
    return pending.page.heading(line.substr(2));
  }
  if (line.starts_with("- ")) {
    if (!pending.paragraph.empty()) pending.put();
    return pending.items.push_back(line.substr(2));
  }
  if (!pending.items.empty()) pending.put();
  pending.paragraph += (pending.paragraph.empty() ? "" : " ") + line;
}

}  // namespace

void writeOwnWords(Html& page, const std::string& text) {
  Pending pending{page};
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t end = std::min(text.find('\n', at), text.size());
    takeLine(pending, text.substr(at, end - at));
    at = end + 1;
  }
  pending.put();
}

}  // namespace report
