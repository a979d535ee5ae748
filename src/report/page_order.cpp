#include "report/page_order.h"

#include <algorithm>

namespace report {

bool PageOrder::has(PagePart part) const { return std::find(parts.begin(), parts.end(), part) != parts.end(); }

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
    if (std::find(parts.begin(), parts.end(), known->part) != parts.end())
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
