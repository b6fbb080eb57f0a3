#pragma once

#include <functional>

namespace lostline {

/// Runs work of a library that is known to follow null pointers on some input. False when it did:
/// the work was left where it stood, and nothing it made is to be used. What it had taken stays
/// taken (its destructors do not run), so this is for faults that would otherwise end the program.
/// Only faults at addresses below 64 KiB are survived: any other says that memory may be damaged.
/// Exceptions pass. Calls may be nested; threads that the work starts are not covered.
[[nodiscard]] bool survives_null_access(const std::function<void()>& work);

}  // namespace lostline
