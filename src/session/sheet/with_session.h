#pragma once

#include <functional>
#include <string>

#include "bench/local_bench.h"
#include "core/judgement/judgement.h"
#include "session/sheet/session.h"
#include "session/user/person.h"

namespace session {

/// Does one thing to a study that is not run. Errors of the study file, and of the act
inline core::Status withSession(const std::string& study_path, const std::function<core::Status(Session&)>& act) {
  auto file = store::StudyFile::open(study_path);
  if (!file) return file.error();
  const auto files = UserFiles::ofThisUser();
  if (!files) return files.error();
  bench::LocalBench bench;
  Session session(*std::move(file), bench, *files, personAtThisMachine());
  if (session.problem()) return *session.problem();
  return act(session);
}

}  // namespace session
