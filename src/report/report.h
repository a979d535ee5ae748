#pragma once

#include <cstddef>
#include <limits>
#include <map>
#include <string>
#include <vector>

#include "core/judgement/judgement.h"
#include "core/record/record.h"
#include "core/values/result.h"
#include "report/page_order.h"

namespace report {

/// The colours of a page; one table for paper and for night.
struct Palette {
  const char* paper;
  const char* ink;
  const char* soft_ink;
  const char* line;
  const char* baseline;
  const char* changed;
};
inline constexpr Palette kPaper{"#fcfbf7", "#22262a", "#5c6166", "#d8d2c4", "#4a545e", "#a44b24"};
inline constexpr Palette kNight{"#1b1f22", "#e6e2d8", "#a7a9a6", "#3c4246", "#b8c0c8", "#e08a5c"};

/// A picture of how the bench was set up for a visit.
struct ShownPicture {
  std::string caption;  ///< "Visit 3, at Gen 4: menu.png"
  std::string media_type;
  std::string base64;  ///< its bytes
};

/// What a page is made of.
struct Source {
  const core::Study& study;
  const core::Record& record;
  const core::Judgement& judgement;
  std::string program_version;
  std::string made_on;                      ///< date, as it is to stand on the page
  bool names_people = false;                ///< who expected and explained what stands there by name; else by number
  std::vector<ShownPicture> pictures = {};  ///< of its visits, where somebody chose to show them
  PageOrder order = fullOrder();            ///< the parts of its page
};

/// May anything of a study be sent? Errors  NotAllowed while results are sealed or the plan is not complete: a verdict
/// so far enters no report
[[nodiscard]] core::Status checkReport(const core::Judgement& judgement);

/// A judgement in which people are called by number: whoever sends it on sends no names that nobody chose to send.
[[nodiscard]] core::Judgement withoutNames(core::Judgement judgement);

/// Markup that stands for pictures; empty: they are drawn into the page.
struct Charts {
  std::string lever;
  std::string shape;  ///< of a ladder, a crossing or a chain
};

/// The answer of a study as one self-contained page: the claim, then the parts of its order.
/// `charts` are put in place of the drawn ones where a page cannot show them. Shapes  HTML with everything in it: no
/// file, font or script besides. The same study gives the same page, byte for byte Errors  those of
/// checkReport
[[nodiscard]] core::Result<std::string> htmlPage(const Source& source, const Palette& palette = kPaper,
                                                 const Charts& charts = {});

/// Rows of the lever chart: so many from one on.
struct Rows {
  std::size_t from = 0;
  std::size_t count = std::numeric_limits<std::size_t>::max();
};
/// How many rows the lever chart has.
[[nodiscard]] std::size_t leverChartRows(const core::Findings& findings);

/// A case's title, and the remark with which it was pinned.
using Pins = std::map<std::string, std::string>;
/// The lever chart as SVG, `width` units wide; or a part of it, with the same axis. Pinned cases stand first.
[[nodiscard]] std::string leverChartSvg(const core::Study& study, const core::Findings& findings, const Pins& pins,
                                        const Palette& palette, int width = 960, Rows part = {});

/// The one picture of a study, `width` units wide: of a ladder, a crossing or a chain that of its shape, of a pair the
/// lever chart.
[[nodiscard]] std::string chartSvg(const core::Study& study, const core::Judgement& judgement, const Palette& palette,
                                   int width = 960);

/// Text for a page: &, <, > and quotes as entities, and home folders as ~.
[[nodiscard]] std::string escaped(std::string_view text);

}  // namespace report
