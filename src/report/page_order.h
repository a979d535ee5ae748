#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "core/values/result.h"

namespace report {

/// What a page is put together from, behind its claim.
enum class PagePart {
  Text,  ///< a person's own words
  Picture,
  Results,
  Possible,
  Further,
  Companions,
  Used,
  Bounds,
  Causes,
  Method,
  Bench,
  Observed,
  Pictures,
  Doubts,
  WentIn,
  Limits
};

/// How a part is called in commands and templates, and in the window.
struct PagePartWords {
  PagePart part;
  const char* name;
  const char* title;
};
inline constexpr std::array kPageParts{
    PagePartWords{PagePart::Text, "text", "own words"},
    PagePartWords{PagePart::Picture, "picture", "the picture"},
    PagePartWords{PagePart::Results, "results", "the results, a row a case"},
    PagePartWords{PagePart::Possible, "possible", "what a level makes possible"},
    PagePartWords{PagePart::Further, "further", "further results of the passes"},
    PagePartWords{PagePart::Companions, "companions", "cases with something beside them"},
    PagePartWords{PagePart::Used, "used", "what the levels used"},
    PagePartWords{PagePart::Bounds, "bounds", "what bounded each case, and how it felt"},
    PagePartWords{PagePart::Causes, "causes", "why, as far as anybody knows"},
    PagePartWords{PagePart::Method, "method", "how it was measured"},
    PagePartWords{PagePart::Bench, "bench", "the bench"},
    PagePartWords{PagePart::Observed, "observed", "what else was noticed"},
    PagePartWords{PagePart::Pictures, "pictures", "pictures of the visits, and of what was noticed"},
    PagePartWords{PagePart::Doubts, "doubts", "what could make it wrong"},
    PagePartWords{PagePart::WentIn, "went_in", "what went in"},
    PagePartWords{PagePart::Limits, "limits", "what this is not"},
};

/// The parts of a page in their order, and a person's own words. The claim stands above all of them, and stops and
/// cautions that nobody accepted stand in every page, whatever is left out.
struct PageOrder {
  std::vector<PagePart> parts;
  /// Plain: "# " begins a heading, "- " an item of a list, an empty line a paragraph. A line of nothing but "---" ends
  /// what stands at one place of own words; the next stands at the next one.
  std::string text = {};

  [[nodiscard]] bool has(PagePart part) const;
  /// What stands at a place of own words, counted from 0; at the last place all that is left.
  [[nodiscard]] std::string wordsAt(std::size_t place) const;
  bool operator==(const PageOrder&) const = default;
};

/// Everything.
[[nodiscard]] PageOrder fullOrder();
/// The answer, its picture, its results and its doubts.
[[nodiscard]] PageOrder shortOrder();
/// The answer and its picture, for a reader in a hurry.
[[nodiscard]] PageOrder hurryOrder();

/// Parts by their names: "picture,results,doubts". Errors  OutOfRange for a name that is none, or one named twice
/// but for own words
[[nodiscard]] core::Result<std::vector<PagePart>> pagePartsFrom(std::string_view names);
[[nodiscard]] std::string namesOf(const std::vector<PagePart>& parts);

}  // namespace report
