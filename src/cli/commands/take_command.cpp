#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/commands/named_level.h"
#include "core/estimate/wording.h"
#include "session/sheet/with_session.h"
#include "session/study/taken_level.h"

namespace cli {

core::Status takeCommand(const std::string& study_path, const std::string& level, const std::string& earlier_path,
                         const std::string& called, std::ostream& out) {
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  return session::withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto configuration = namedLevel(session.open().study(), level, study_path);
    if (!configuration) return configuration.error();
    const auto taken =
        session::takeLevel(session.open(), *configuration, {earlier_path, called}, store::BenchNames(files->benches));
    if (!taken) return taken.error();
    out << fmt::format("Took {} of {} from {}. It was not interleaved with what you measure now: a caution stands.\n",
                       core::countText(static_cast<int>(taken->visits.size()), "visit", "visits"), level, taken->study);
    return core::Done{};
  });
}

}  // namespace cli
