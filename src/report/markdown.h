#pragma once

#include <string>

namespace report {

/// A page of ours as Markdown with tables (GitHub's kind), word for word: headings, paragraphs, lists and tables. In
/// the place of its first picture stands a link to `picture`; the others are left out.
[[nodiscard]] std::string markdownOf(const std::string& page, const std::string& picture);

}  // namespace report
