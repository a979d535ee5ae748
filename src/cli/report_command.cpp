#include <QDate>
#include <fstream>

#include "cli/commands.h"
#include "cli/with_session.h"
#include "report/report.h"

namespace cli {

core::Status reportCommand(const std::string& study_path, const std::string& out_path) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    const auto page = report::htmlPage({session.study(), record, judgement, IRON_LEVER_VERSION,
                                        QDate::currentDate().toString(Qt::ISODate).toStdString()});
    if (!page) return page.error();
    std::ofstream file(out_path, std::ios::binary);
    file << *page;
    if (!file.flush())
      return core::Error{core::ErrorKind::Io, "the report cannot be written", out_path,
                         "Check the folder and its free space"};
    return core::Done{};
  });
}

}  // namespace cli
