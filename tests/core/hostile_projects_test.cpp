// Projects that nobody saved like this: counts beyond all memory, names of any bytes, formulas that
// name themselves, manifests whose parts were exchanged.
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <iterator>

#include "plate_scan.h"
#include "project/formula.h"
#include "project/ledger.h"
#include "store/manifest.h"
#include "store/project_file.h"
#include "support/damage.h"
#include "support/places.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;
using project::Document;
using store::Json;

class HostileProjects : public ::testing::Test {
 protected:
  void SetUp() override {
    folder_ = testing::scratch() / "hostile";
    fs::create_directories(folder_);
    std::ifstream file(testing::data_dir() + "/corpus/block.lostline", std::ios::binary);
    good_ = {std::istreambuf_iterator<char>(file), {}};
    manifest_ = Json::parse(testing::entry_of(good_, "manifest.json"));
  }
  void TearDown() override { fs::remove_all(folder_); }

  /// The project with another manifest.
  Result<Document> with(const Json& manifest) {
    const fs::path path = folder_ / "hostile.lostline";
    std::ofstream(path, std::ios::binary | std::ios::trunc)
        << testing::with_entry(good_, "manifest.json", manifest.dump());
    return store::load_project(path);
  }
  void refused(const Json& manifest, const std::string& because) {
    const auto read = with(manifest);
    ASSERT_FALSE(read) << because;
    EXPECT_NE(read.error().message.find(because), std::string::npos) << read.error().message;
  }

  fs::path folder_;
  std::string good_;
  Json manifest_;
};

TEST_F(HostileProjects, AsItIsItIsTaken) { EXPECT_TRUE(with(manifest_)); }

TEST_F(HostileProjects, CountsBeyondAllMemoryAreRefused) {
  for (const std::uint64_t count : {std::uint64_t{1} << 61U, std::uint64_t{1} << 60U,
                                    ~std::uint64_t{0}, std::uint64_t{1} << 40U}) {
    Json m = manifest_;
    m["scan"]["vertices"] = count;
    refused(m, "incomplete");
    m = manifest_;
    m["scan"]["triangles"] = count;
    refused(m, "incomplete");
  }
}

TEST_F(HostileProjects, NumbersGivenTwiceAreRefused) {
  for (const char* list : {"fits", "sketches", "steps", "dimensions"}) {
    Json m = manifest_;
    ASSERT_TRUE(m.contains(list));
    if (m[list].empty()) continue;
    m[list].push_back(m[list].front());
    refused(m, "twice");
  }
  // The next one to be given is above all that were.
  Json m = manifest_;
  m["next_id"] = 1;
  const auto read = with(m);
  ASSERT_TRUE(read) << read.error().message;
  for (const model::Step& step : read->steps) EXPECT_LT(step.id, read->next_id);
}

TEST_F(HostileProjects, AScanOfAnyNameIsSavedAndFoundAgain) {
  const fs::path there = folder_ / "gu\xdf teil\xff.stl";
  fs::copy_file(testing::data_dir() + "/corpus/ascii.stl", there);
  const auto scan = project::open_scan(there.string(), Unit::Millimetre);
  ASSERT_TRUE(scan) << scan.error().message;
  EXPECT_EQ((*scan)->name, "gu\uFFFD teil\uFFFD");
  Document document = project::with_scan({}, *scan);
  document.title = "\xff\xfe title";  // from wherever
  const fs::path path = folder_ / "named.lostline";
  const Status saved = store::save_project(path, document);
  ASSERT_TRUE(saved) << saved.error().message;
  const auto back = store::load_project(path);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(back->scan->name, (*scan)->name);
  EXPECT_EQ(back->scan->source, there.string());
}

/// Rows with formulas, without a sketch or step to belong to.
Document rows(const std::vector<std::string>& expressions) {
  Document d;
  for (const std::string& expression : expressions) {
    project::Dimension row;
    row.id = d.next_id++;
    row.name = "row " + std::to_string(row.id);
    row.intent = static_cast<double>(row.id);
    row.reason = "formula";
    row.expression = expression;
    d.dimensions.push_back(row);
  }
  return d;
}

TEST(HostileFormulas, WhatCannotBeReadBecomesADecision) {
  for (const char* bad : {"{201", "{", "{}", "{1 + 2", "{x}", "{-1}", "{0}",
                          "{99999999999999999999}", "1 + {2", "{2}{"}) {
    Document d = rows({bad, ""});
    const auto changed = project::evaluate_formulas(d);
    ASSERT_TRUE(changed) << bad;
    EXPECT_EQ(d.dimensions[0].expression, "") << bad;
    EXPECT_EQ(d.dimensions[0].intent, 1.0) << bad;
    EXPECT_NE(d.dimensions[0].reason, "formula") << bad;
    EXPECT_EQ(project::formula_text(d, rows({bad}).dimensions[0]), bad);
  }
  Document d = rows({""});
  EXPECT_FALSE(project::ink_formula(d, 1, "{1} + 2"));
  EXPECT_FALSE(project::ink_formula(d, 1, "{201"));
}

TEST(HostileFormulas, ThoseThatNameThemselvesBecomeDecisionsAndOthersFollow) {
  // 1 and 2 name each other, 3 names 2, 4 names itself, 5 stands on its own feet.
  Document d = rows({"{2} + 1", "{1} + 1", "{2} * 10", "{4}", "2 * 3"});
  ASSERT_TRUE(project::evaluate_formulas(d));
  for (const std::size_t k : {0U, 1U, 3U}) {
    EXPECT_EQ(d.dimensions[k].expression, "") << k;
    EXPECT_EQ(d.dimensions[k].reason, "formula; it depended on itself");
  }
  EXPECT_EQ(d.dimensions[2].intent, 20.0);
  EXPECT_EQ(d.dimensions[4].intent, 6.0);
  // A circle that would be closed is named.
  Document chain = rows({"", "[x]", ""});
  chain.dimensions[1].expression = "{1} + 1";
  chain.dimensions[2].expression = "{2} + 1";
  const auto closed = project::ink_formula(chain, 1, "[row 3] / 2");
  ASSERT_FALSE(closed);
  for (const char* name : {"row 1", "row 2", "row 3"})
    EXPECT_NE(closed.error().message.find(name), std::string::npos) << closed.error().message;
}

TEST(HostileFormulas, AChainOfAnyLengthIsComputedInOrder) {
  constexpr int kRows = 20000;
  std::vector<std::string> expressions;
  // Each names the one behind it, the last is a number.
  for (int k = 1; k < kRows; ++k) expressions.push_back("{" + std::to_string(k + 1) + "} + 1");
  expressions.emplace_back("");
  Document d = rows(expressions);
  d.dimensions.back().intent = 0.5;
  const auto changed = project::evaluate_formulas(d);
  ASSERT_TRUE(changed);
  EXPECT_EQ(d.dimensions.front().intent, kRows - 1 + 0.5);
  EXPECT_EQ(project::evaluate_formulas(d)->size(), 0U);  // nothing is left to change
  // And closed to a circle it ends too.
  d.dimensions.back().expression = "{1}";
  ASSERT_TRUE(project::evaluate_formulas(d));
  EXPECT_EQ(d.dimensions.front().expression, "");
}

TEST_F(HostileProjects, ManifestsOfExchangedPartsAreReadOrRefused) {
  std::mt19937_64 random(20261202);
  int taken = 0;
  for (int k = 0; k < 400; ++k) {
    SCOPED_TRACE(k);
    Json m = manifest_;
    testing::exchange_parts(m, random);
    const auto read = with(m);
    if (read)
      ++taken;
    else
      EXPECT_GT(read.error().message.size(), 20U);
  }
  EXPECT_GT(taken, 10);  // not every change is one that shows
  EXPECT_LT(taken, 390);
}

}  // namespace
}  // namespace lostline
