#pragma once

// Precompiled for the tests of the core.
#include "core_pch.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
