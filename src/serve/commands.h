// The commands that code actions name ("workspace/executeCommand").
#pragma once

namespace yc::serve {

// Mends all findings of one kind: the folder's URI, the kind, and for a file that is to be listed its URI.
inline constexpr const char* kMendCommand = "yellow-compass.mend";
// Leads what leads nowhere at a place to the file most likely meant: a file's URI, a line and a character
// from 0.
inline constexpr const char* kLeadCommand = "yellow-compass.lead";
// Spells one reference otherwise: a file's URI, a line and a character from 0, "alias" or "relative".
inline constexpr const char* kRespellCommand = "yellow-compass.respell";
// Mends what moves left behind that were made without asking: the folder's URI.
inline constexpr const char* kCatchUpCommand = "yellow-compass.catch-up";

}  // namespace yc::serve
