#include "report/shape_part.h"

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/contrast_rows.h"
#include "report/shape_svg.h"

namespace report {
namespace {

class ShapePart {
 public:
  ShapePart(Html& page, const Source& source, const Palette& palette)
      : page_(page), source_(source), palette_(palette) {}

  void write(const std::string& picture) {
    const auto headline = shape().headlineCase();
    page_.raw(picture.empty()
                  ? shapeSvg(study(), shape(), headline, palette_, kShapeWidth, shapeHeight(study(), kShapeHeight))
                  : picture);
    if (!headline) contrasts(headline);
    for (std::size_t i = 0; i < study().cases.size(); ++i) contrasts(i);
    everywhere();
    missing();
    page_.heading(fmt::format("{} against {}, case by case",
                              source_.judgement.pair_study.nameOf(core::ConfigurationId::Changed),
                              source_.judgement.pair_study.nameOf(core::ConfigurationId::Baseline)));
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.study; }
  [[nodiscard]] const core::ShapeFindings& shape() const { return source_.judgement.shape; }

  void contrasts(std::optional<std::size_t> of) {
    page_.heading(of ? study().cases[*of].title()
                     : fmt::format("All {} cases, equal weight", shape().suite_cases.size()));
    if (const std::string enough = core::enoughText(study(), shape(), of); !enough.empty())
      page_.paragraph(enough + ".", "strong");
    if (const core::LadderFinding* ladder = shape().ladderOf(of)) {
      if (const std::string ceiling = core::ceilingText(study(), *ladder); !ceiling.empty())
        page_.paragraph(ceiling + ".");
      foretold(*ladder);
    }
    page_.raw("<table>\n");
    for (const core::ContrastSection& section : core::contrastSections(study(), shape(), of)) {
      page_.row({section.heading, "improvement", "", "verdict"}, "th");
      for (const core::ContrastRow& row : section.rows) page_.row({row.title, row.change, row.remark, row.verdict});
    }
    page_.raw("</table>\n");
  }

  void foretold(const core::LadderFinding& ladder) {
    for (const core::Foretold& one : ladder.foretold) page_.paragraph(core::foretoldText(study(), ladder, one) + ".");
  }

  // As many columns as there are configurations; a table of many is turned, so that none is cut.
  void everywhere() {
    page_.heading("Every case at every configuration");
    page_.raw("<table>\n");
    std::vector<std::string> head{""};
    for (const core::Case& a_case : study().cases) head.push_back(a_case.title() + ", " + a_case.metric.name);
    constexpr std::size_t kMostColumns = 6;
    if (study().cases.size() > kMostColumns) return byCase();
    page_.row(head, "th");
    for (const core::ConfigurationId at : core::configurationsOf(study())) {
      std::vector<std::string> cells{study().nameOf(at) + resourceText(at)};
      for (std::size_t i = 0; i < study().cases.size(); ++i) cells.push_back(valueText(i, at));
      page_.row(cells);
    }
    page_.raw("</table>\n");
    levels();
  }

  void byCase() {
    for (std::size_t i = 0; i < study().cases.size(); ++i) {
      page_.row({study().cases[i].title(), study().cases[i].metric.name}, "th");
      for (const core::ConfigurationId at : core::configurationsOf(study()))
        page_.row({study().nameOf(at) + resourceText(at), valueText(i, at)});
    }
    page_.raw("</table>\n");
    levels();
  }

  void levels() {
    page_.paragraph(
        "Values are geometric means; those of differences in a unit are plain means. The comparisons are in the tables "
        "above.",
        "soft");
  }

  [[nodiscard]] std::string resourceText(core::ConfigurationId at) const {
    const auto& resources = shape().resources;
    if (resources.empty() || !resources[core::placeOf(at)]) return "";
    const core::LevelResource& resource = *resources[core::placeOf(at)];
    return fmt::format(" ({:.4g} {}, {})", resource.value, resource.unit, core::resourceSourceName(resource.source));
  }

  [[nodiscard]] std::string valueText(std::size_t case_index, core::ConfigurationId at) const {
    const core::ValuesOf* values = shape().valuesOf(case_index);
    const auto mean = values == nullptr ? std::nullopt : values->at[core::placeOf(at)].mean;
    return mean ? core::valueText(*mean, study().cases[case_index].metric.unit) : "no result";
  }

  void missing() {
    std::vector<std::string> items;
    for (const core::MissingResult& one : shape().missing)
      items.push_back(fmt::format("{}{}: {}.", one.case_index ? study().cases[*one.case_index].title() + " at " : "",
                                  one.name, one.reason));
    page_.sentences("Without a result:", items);
  }

  Html& page_;
  const Source& source_;
  const Palette& palette_;
};

}  // namespace

void writeShape(Html& page, const Source& source, const Palette& palette, const std::string& picture) {
  if (source.study.shape != core::Shape::Pair) ShapePart(page, source, palette).write(picture);
}

}  // namespace report
