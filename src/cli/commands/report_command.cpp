#include <filesystem>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "session/pages/written_report.h"
#include "session/user/output_file.h"

namespace cli {

core::Status reportCommand(const std::string& study_path, const std::string& out_path, bool names_people,
                           bool has_pictures) {
  const session::ReportWish wish{names_people, has_pictures};
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (auto free = session::checkOutput(out_path); !free) return free;  // first of all: no study is written over
    const auto files = session::reportFiles(out_path);
    if (!files) return files.error();
    for (const std::string& file : *files)
      if (auto free = session::checkOutput(file); !free) return free;
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    if (session::isDrawnByWindow(out_path)) {
      if (auto fine = report::checkReport(judgement); !fine) return fine;
      return session::drawByWindow(out_path, study_path, wish);
    }
    const auto source = session::reportSource(session.open(), record, judgement, wish);
    if (!source) return source.error();
    return session::writeReport(out_path, *source, std::filesystem::path(study_path).stem().string());
  });
}

}  // namespace cli
