#include "app/model/sheet_work.h"

#include <algorithm>

#include "app/model/far_sheet_work.h"
#include "app/model/local_sheet_work.h"
#include "app/model/qt_text.h"
#include "session/user/person.h"

namespace app {

int settledPasses(const core::SheetLedger& ledger) {
  const std::vector<bool>& pending = ledger.pending();
  return static_cast<int>(std::count(pending.begin(), pending.end(), false));
}

QString passInHand(const core::Study& study, const core::Slot& slot) {
  return tr("%1 · %2 · %3 %4")
      .arg(toQt(study.nameOf(slot.configuration)), toQt(study.cases[slot.case_index].title()),
           slot.is_warm_up ? tr("warm-up") : tr("pass"))
      .arg(slot.number);
}

core::Result<std::unique_ptr<SheetWork>> SheetWork::of(const std::string& path, bench::BenchConnection& here,
                                                       const session::UserFiles& files) {
  auto file = store::StudyFile::open(path);
  if (!file) return file.error();
  const std::string person = session::personAtThisMachine();
  if (const auto problems = core::problemsOf(file->study()); !problems.empty()) return problems.front();
  if (!file->study().ssh_name.empty())
    return std::unique_ptr<SheetWork>(std::make_unique<FarSheetWork>(*std::move(file), person, files));
  auto session = std::make_unique<session::Session>(*std::move(file), here, files, person);
  if (session->problem()) return *session->problem();
  return std::unique_ptr<SheetWork>(std::make_unique<LocalSheetWork>(std::move(session)));
}

}  // namespace app
