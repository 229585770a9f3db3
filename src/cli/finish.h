// What every command does with a plan: show it, write it as a diff, carry it out.
#pragma once

#include <functional>
#include <string>

#include "cli/session.h"
#include "plan/plan.h"
#include "rehearse/evidence.h"

namespace yc::cli {

struct FinishOptions {
  bool preview = false;
  std::string patch;   // where to write the diff; empty for nowhere
  std::string report;  // where to write a page
  bool no_stage = false;
};
// Adds --preview and --patch.
void add_finish_options(CLI::App& command, FinishOptions& own);
// Adds --report, for commands that have no other reports.
void add_page_option(CLI::App& command, std::string& report, const std::string& what);
// Whether that names a page. Nothing is wrong if it is empty.
Status check_page_name(const std::string& file);

// Fails if an earlier move of this tree was not finished.
Status check_finished(const Session& session);
// Ends the command; gives its exit status where it does not end the program at once. `evidence` is what
// builds said of the plan, null if there were none; `carried_out` is called once it is, and may be empty.
int finish(const Session& session, const Plan& plan, const FinishOptions& own,
           const Evidence* evidence = nullptr, const std::function<void()>& carried_out = {});

}  // namespace yc::cli
