#include "bench/capture.h"

#include <QDateTime>

#include "bench/capture_parts.h"
#include "bench/local_bench.h"
#include "bench/read_budget.h"

namespace bench {

core::Capture captureBench(const BenchConnection& whole, std::stop_token stop) {
  const BudgetedBench bench(whole, {}, std::move(stop));
  core::Capture capture;
  capture.taken_ms = QDateTime::currentMSecsSinceEpoch();
  capture.boot_id = bootId(bench);
  capture.is_privileged = bench.readFile("/sys/firmware/dmi/tables/DMI").ok();
  FactReader reader(bench, capture);
  captureKernel(reader);
  captureProcessor(reader);
  captureMemory(reader);
  capturePci(reader);
  captureUsb4(reader);
  captureSensors(reader);
  capture.is_virtual = (" " + capture.text("cpu/flags") + " ").find(" hypervisor ") != std::string::npos;
  return capture;
}

WithRootFacts::WithRootFacts(BenchConnection& bench, const std::string& folder)
    : bench_(&bench), facts_(std::make_shared<LocalBench>(folder)) {}

core::Result<WithRootFacts> WithRootFacts::open(BenchConnection& bench, const std::string& folder) {
  WithRootFacts with(bench, folder);
  const std::string theirs = bootId(*with.facts_);
  if (theirs.empty())
    return core::Error{core::ErrorKind::Missing, "this folder holds no root facts", folder,
                       "Make it with: sudo iron-lever-root-facts FOLDER"};
  if (theirs != bootId(bench))
    return core::Error{core::ErrorKind::OutOfRange, "these root facts were read in another boot", folder,
                       "Read them again: sudo iron-lever-root-facts FOLDER"};
  return with;
}

core::Result<std::string> WithRootFacts::readFile(const std::string& path) const {
  auto own = bench_->readFile(path);
  // Without privilege configuration space ends after 64 bytes, without an error.
  const bool is_cut = own && path.ends_with("/config") && own->size() <= 64;
  if (own ? !is_cut : own.error().kind != core::ErrorKind::Denied) return own;
  auto kept = facts_->readFile(path);
  return kept ? kept : own;
}

}  // namespace bench
