#include <QDate>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "report/report.h"
#include "session/output_file.h"

namespace cli {

core::Status reportCommand(const std::string& study_path, const std::string& out_path) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    const auto page = report::htmlPage({session.study(), record, judgement, IRON_LEVER_VERSION,
                                        QDate::currentDate().toString(Qt::ISODate).toStdString()});
    if (!page) return page.error();
    return session::writeOutput(out_path, *page);
  });
}

}  // namespace cli
