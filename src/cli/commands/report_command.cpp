#include <QDate>
#include <filesystem>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "session/pages/written_report.h"
#include "session/user/output_file.h"

namespace cli {

core::Status reportCommand(const std::string& study_path, const std::string& out_path, bool names_people,
                           bool has_pictures) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (auto free = session::checkOutput(out_path); !free) return free;
    const auto files = session::reportFiles(out_path);
    if (!files) return files.error();
    for (const std::string& file : *files)
      if (auto free = session::checkOutput(file); !free) return free;
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    report::Source source{session.study(),
                          record,
                          judgement,
                          IRON_LEVER_VERSION,
                          QDate::currentDate().toString(Qt::ISODate).toStdString(),
                          names_people};
    if (has_pictures)
      if (auto added = session::addPictures(source, session.open()); !added) return added;
    return session::writeReport(out_path, source, std::filesystem::path(study_path).stem().string());
  });
}

}  // namespace cli
