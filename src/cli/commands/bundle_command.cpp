#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "core/values/shown_text.h"
#include "session/bundle/bundle.h"
#include "store/json/json_text.h"

namespace cli {

using nlohmann::ordered_json;

core::Status bundleCommand(const std::string& study_path, const std::string& out_path,
                           const std::vector<std::string>& kept_names, bool as_json, std::ostream& out) {
  const auto kept = session::keptFrom(kept_names);
  if (!kept) return kept.error();
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto sealed = session::sealBundle(session.open(), out_path, *kept);
    if (!sealed) return sealed.error();
    if (as_json) {
      out << store::jsonText(ordered_json{{"path", out_path},
                                          {"seal", sealed->seal},
                                          {"files", sealed->files},
                                          {"kept", kept_names},
                                          {"left_out", sealed->left_out}},
                             1)
          << '\n';
      return core::Done{};
    }
    out << fmt::format("{} files were sealed in {}.\nSeal: {}\n", sealed->files, core::shownLine(out_path),
                       sealed->seal);
    const std::string left_out = session::leftOutText(sealed->left_out);
    if (!left_out.empty()) out << "Left out, or called by number: " << left_out << ".\n";
    out << "Keep the seal elsewhere: it tells this bundle from every other. Names in what people wrote are found only "
           "where they stand elsewhere too: read it before you send it.\n";
    return core::Done{};
  });
}

core::Result<bool> verifyCommand(const std::string& path, bool as_json, std::ostream& out) {
  const auto check = session::verifyBundle(path);
  if (!check) return check.error();
  const bool is_whole = check->differences.empty();
  if (as_json) {
    ordered_json differences = ordered_json::array();
    for (const session::BundleDifference& one : check->differences)
      differences.push_back({{"where", one.where}, {"printed", one.printed}, {"recomputed", one.recomputed}});
    out << store::jsonText(
               ordered_json{
                   {"ok", is_whole},
                   {"checked", {{"files", check->files}, {"passes", check->passes}, {"numbers", check->numbers}}},
                   {"differences", differences},
                   {"seal", check->seal}},
               1)
        << '\n';
  } else {
    for (const session::BundleDifference& one : check->differences)
      out << fmt::format("{}\n  stands there: {}\n  follows from the passes: {}\n", core::shownLine(one.where),
                         core::shownLine(one.printed), core::shownLine(one.recomputed));
    out << fmt::format("{} files, {} passes, {} numbers were checked. Seal: {}\n", check->files, check->passes,
                       check->numbers, check->seal);
    if (is_whole) out << "Nothing differs: whether it is the one that you were told of, the seal says.\n";
  }
  return is_whole;
}

}  // namespace cli
