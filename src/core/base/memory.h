#pragma once

namespace lostline {

/// Lets this process keep memory of up to some hundred megabytes that was freed, instead of giving
/// every large array back to the system and having its pages cleared again for the next one: a tenth
/// of the time of a fit of 100 000 points went into that. Called once at the start of a program.
void keep_freed_memory();

}  // namespace lostline
