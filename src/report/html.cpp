#include "report/html.h"

#include <string_view>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "report/report.h"

namespace report {

void Html::heading(const std::string& words) { text_ += fmt::format("<h2>{}</h2>\n", sentence(words)); }
void Html::paragraph(const std::string& words, const char* kind) {
  text_ += *kind ? fmt::format("<p class=\"{}\">{}</p>\n", kind, sentence(words))
                 : fmt::format("<p>{}</p>\n", sentence(words));
}
void Html::list(const std::vector<std::string>& items) {
  if (items.empty()) return;
  text_ += "<ul>";
  for (const std::string& item : items) text_ += "<li>" + sentence(item) + "</li>";
  text_ += "</ul>\n";
}
void Html::row(const std::vector<std::string>& cells, const char* tag, std::size_t words) {
  const bool is_head = std::string_view(tag) == "th";
  text_ += "<tr>";
  for (std::size_t i = 0; i < cells.size(); ++i)
    text_ += i < words ? fmt::format("<{0}>{1}</{0}>", tag, sentence(cells[i]))
                       : fmt::format("<{0} class=\"number\">{1}</{0}>", tag,
                                     is_head ? escaped(cells[i]) : unbroken(escaped(cells[i])));
  text_ += "</tr>\n";
}

std::string Html::sentence(const std::string& words) { return escaped(core::withBoundPercents(words)); }

std::string Html::unbroken(std::string text) {
  constexpr std::size_t kSentence = 24;  // longer ones are words
  if (text.size() > kSentence) return text;
  for (std::size_t at = 0; (at = text.find(' ', at)) != std::string::npos;) text.replace(at, 1, "&nbsp;");
  return text;
}

void Html::sentences(const std::string& title, const std::vector<std::string>& said) {
  if (said.empty()) return;
  paragraph(title);
  list(said);
}

}  // namespace report
