#include "report/page_order.h"

#include <algorithm>

namespace report {

bool PageOrder::has(PagePart part) const { return std::find(parts.begin(), parts.end(), part) != parts.end(); }

std::string PageOrder::wordsAt(std::size_t place) const {
  constexpr std::string_view kBorder = "---";
  const auto places = static_cast<std::size_t>(std::count(parts.begin(), parts.end(), PagePart::Text));
  std::string words;
  std::size_t now = 0;
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t end = std::min(text.find('\n', at), text.size());
    std::string_view line(text.data() + at, end - at);
    if (line.ends_with('\r')) line.remove_suffix(1);
    at = end + 1;
    if (line == kBorder && now + 1 < places)
      ++now;
    else if (now == place)
      words += (line == kBorder ? std::string() : std::string(line)) + '\n';
  }
  return words;
}

PageOrder fullOrder() {
  PageOrder order;
  for (const PagePartWords& one : kPageParts) order.parts.push_back(one.part);
  return order;
}

PageOrder shortOrder() {
  return {
      {PagePart::Text, PagePart::Picture, PagePart::Results, PagePart::Possible, PagePart::Doubts, PagePart::Limits}};
}

PageOrder hurryOrder() { return {{PagePart::Text, PagePart::Picture}}; }

core::Result<std::vector<PagePart>> pagePartsFrom(std::string_view names) {
  std::vector<PagePart> parts;
  while (!names.empty()) {
    const std::size_t comma = std::min(names.find(','), names.size());
    const std::string_view name = names.substr(0, comma);
    names.remove_prefix(std::min(comma + 1, names.size()));
    const auto known =
        std::find_if(kPageParts.begin(), kPageParts.end(), [&](const PagePartWords& one) { return name == one.name; });
    std::vector<PagePart> all;
    for (const PagePartWords& one : kPageParts) all.push_back(one.part);
    if (known == kPageParts.end())
      return core::Error{core::ErrorKind::OutOfRange, "a page has no part '" + std::string(name) + "'", "parts",
                         "Name any of " + namesOf(all)};
    if (known->part != PagePart::Text && std::find(parts.begin(), parts.end(), known->part) != parts.end())
      return core::Error{core::ErrorKind::OutOfRange, "'" + std::string(name) + "' is named twice", "parts",
                         "Name each part once"};
    parts.push_back(known->part);
  }
  return parts;
}

std::string namesOf(const std::vector<PagePart>& parts) {
  std::string names;
  for (const PagePart part : parts)
    for (const PagePartWords& one : kPageParts)
      if (one.part == part) names += (names.empty() ? "" : ",") + std::string(one.name);
  return names;
}

}  // namespace report
