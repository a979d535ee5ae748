#include "report/paper_sheet.h"

#include <optional>

#include <fmt/format.h>

#include "core/record/flip_guide.h"
#include "core/study/schedule.h"
#include "report/html.h"
#include "report/report.h"

namespace report {
namespace {

constexpr const char* kStyle =
    "body{font-family:'B612',sans-serif;font-size:11pt;color:#000;margin:1.5cm}"
    "h1{font-size:15pt}h2{font-size:12pt;border-top:1px solid #000;padding-top:8pt;break-after:avoid}"
    "section{break-inside:avoid}li{margin:3pt 0}ul.boxes{list-style:none;padding-left:0}"
    "ul.boxes li::before{content:'\\2610\\00a0\\00a0'}table{border-collapse:collapse;width:100%}"
    "td{border-bottom:1px solid #777;padding:5pt 4pt}td.line{width:45%}.soft{color:#444}";

/// The sheet as it grows.
class Paper {
 public:
  explicit Paper(const core::Study& study) : study_(study), schedule_(core::scheduleOf(study)) {}

  [[nodiscard]] std::string page() {
    begin();
    std::optional<core::Visit> before;
    for (const core::PlannedVisit& visit : core::visitsOf(study_)) {
      addVisit(visit, before);
      before = core::Visit{0, visit.number, visit.round, visit.configuration, {}, 0};
    }
    return html_.text() + "</body></html>\n";
  }

 private:
  void begin() {
    const std::string title = fmt::format("{}: {}", study_.bench, study_.variable().name);
    html_.raw("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>" + escaped(title) +
              "</title><style>" + kStyle + "</style></head><body><h1>" + escaped(title) + "</h1>");
    html_.paragraph("The run sheet on paper. Date: ____________  Name: ________________________");
    html_.paragraph(
        "Take a visit from top to bottom; write down what is read, also what failed, and why. The maker's "
        "manual, local rules and licensed practice have the last word.",
        "soft");
  }

  void addVisit(const core::PlannedVisit& visit, const std::optional<core::Visit>& before) {
    html_.raw("<section>");
    html_.heading(fmt::format("Visit {}, round {}: {}", visit.number, visit.round, study_.nameOf(visit.configuration)));
    const core::FlipGuide guide = core::flipGuide(study_, visit.configuration, before);
    if (guide.steps.empty()) html_.paragraph("Nothing is set by hand.", "soft");
    html_.list(guide.steps);
    if (!guide.checklist.empty()) {
      html_.raw("<ul class=\"boxes\">");
      for (const std::string& point : guide.checklist) html_.raw("<li>" + escaped(point) + "</li>");
      html_.raw("</ul>");
    }
    for (const std::string& caution : guide.cautions) html_.paragraph("Caution: " + caution, "soft");
    html_.paragraph("Begun at ______   Room ______ °C   Read back: ________________________");
    addPasses(visit);
    html_.raw("</section>\n");
  }

  void addPasses(const core::PlannedVisit& visit) {
    html_.raw("<table>");
    for (const core::Slot& slot : schedule_) {
      if (slot.visit != visit.number) continue;
      const core::Case& a_case = study_.cases[slot.case_index];
      const std::string unit = slot.is_warm_up ? std::string("not counted") : a_case.metric.unit;
      html_.raw(fmt::format("<tr><td>{}</td><td>{} {}</td><td class=\"line\"></td><td>{}</td></tr>",
                            escaped(a_case.title()), slot.is_warm_up ? "warm-up" : "pass", slot.number, escaped(unit)));
    }
    html_.raw("</table>");
  }

  const core::Study& study_;
  std::vector<core::Slot> schedule_;
  Html html_;
};

}  // namespace

std::string paperSheet(const core::Study& study) { return Paper(study).page(); }

}  // namespace report
