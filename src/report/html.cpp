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
  text_ += is_head ? "<thead><tr>" : "<tr>";  // a head is written again on each sheet of paper
  for (std::size_t i = 0; i < cells.size(); ++i)
    text_ += i < words ? fmt::format("<{0}>{1}</{0}>", tag, sentence(cells[i]))
                       : fmt::format("<{0} class=\"number\">{1}</{0}>", tag,
                                     is_head ? escaped(cells[i]) : unbroken(escaped(cells[i])));
  text_ += is_head ? "</tr></thead>\n" : "</tr>\n";
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

std::string pageHead(const std::string& title, const Palette& palette) {
  return fmt::format(
      "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{0}</title><style>"
      "body{{background:{1};color:{2};font-family:B612,sans-serif;font-size:14px;max-width:960px;margin:24px "
      "auto;padding:0 16px}}"
      "h1{{font-size:24px;font-weight:bold}}h2{{font-size:17px;margin-top:28px}}"
      "table{{border-collapse:collapse;width:100%}}th,td{{text-align:left;padding:4px 8px;border-bottom:1px solid "
      "{3}}}"
      "td.number,th.number{{text-align:right}}.soft{{color:{4}}}.strong{{font-weight:bold}}svg{{max-width:100%;"
      "height:"
      "auto}}"
      "@media print{{tr,svg{{break-inside:avoid}}h1,h2{{break-after:avoid}}}}"
      "</style></head><body>\n",
      escaped(title), palette.paper, palette.ink, palette.line, palette.soft_ink);
}

}  // namespace report
