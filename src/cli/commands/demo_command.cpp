#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/commands/run_to_end.h"
#include "session/sheet/demo_study.h"

namespace cli {

namespace {

core::Status runDemo(const std::string& folder, const std::string& id, std::ostream& out) {
  bench::LocalBench bench;
  auto session = session::openDemo(folder, bench, id);
  if (!session) return session.error();
  if ((*session)->nextSlot()) {
    out << "Running the demo study on its simulated bench ...\n" << std::flush;
    const auto ended = runToEnd(**session, [&](const core::Pass&) { return out.good(); });
    if (!ended) return ended.error();
  }
  out << "Demo study: " << (*session)->open().path() << '\n';
  return core::Done{};
}

}  // namespace

core::Status demoCommand(const std::string& folder, const std::string& id, std::ostream& out) {
  for (std::string next = id; !next.empty(); next = session::nextDemo(next))
    if (auto ran = runDemo(folder, next, out); !ran) return ran;
  return core::Done{};
}

}  // namespace cli
