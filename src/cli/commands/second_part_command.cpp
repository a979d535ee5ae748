#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "core/estimate/wording.h"
#include "store/files/regular_file.h"
#include "store/json/study_json.h"

namespace cli {

core::Status addCasesCommand(const std::string& study_path, const std::string& cases_path, int rounds,
                             const std::string& reason, std::ostream& out) {
  constexpr std::uintmax_t kLargest = 16 << 20;
  const auto text = store::contentsOf(cases_path, kLargest);
  if (!text) return text.error();
  const auto cases = store::casesFromJson(*text, cases_path);
  if (!cases) return cases.error();
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (auto added = session.decisions().addSecondPart(*cases, rounds, reason); !added) return added;
    out << "Added " << core::countText(static_cast<int>(cases->size()), "case", "cases") << " in a second part of "
        << core::countText(rounds, "round", "rounds") << ". Run the study to go on.\n";
    return core::Done{};
  });
}

}  // namespace cli
