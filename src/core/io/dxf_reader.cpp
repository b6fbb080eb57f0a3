#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <map>
#include <optional>

#include "io/read_curves.h"
#include "model/kernel_spline.h"

namespace lostline::io {
namespace {

double turn_to(double from, double to) {
  double sweep = std::fmod(to - from, 2 * kPi);
  if (sweep <= 1e-12) sweep += 2 * kPi;
  return sweep;
}

/// Similar figures only: blocks drawn wider than high are left out.
struct Placed {
  double scale = 1, turn = 0;
  Vec2 shift = Vec2::Zero();
  [[nodiscard]] Vec2 at(const Vec2& p) const {
    return scale * (Eigen::Rotation2Dd(turn) * p) + shift;
  }
};
struct MoveForm {
  const Placed& by;
  sketch::Form operator()(sketch::StraightForm f) const {
    return sketch::StraightForm{by.at(f.a), by.at(f.b)};
  }
  sketch::Form operator()(sketch::RoundForm f) const {
    f.centre = by.at(f.centre);
    f.radius *= by.scale;
    f.start += by.turn;
    return f;
  }
  sketch::Form operator()(sketch::EllipticForm f) const {
    f.centre = by.at(f.centre);
    f.axis = Eigen::Rotation2Dd(by.turn) * f.axis;
    f.major *= by.scale;
    f.minor *= by.scale;
    return f;
  }
  sketch::Form operator()(sketch::SplineForm f) const {
    for (Vec2& pole : f.spline.poles) pole = by.at(pole);
    return f;
  }
};

/// What a drawing or one of its blocks holds.
struct Block {
  std::vector<sketch::Form> curves;
  std::vector<Vec2> points;
  std::vector<DL_InsertData> inserts;
};

/// Gathers what the library reads, in the drawing's unit.
class Gathering : public DL_CreationAdapter {
 public:
  std::map<std::string, Block> blocks;
  Block drawing;
  std::map<std::string, int> others;
  int unit = 0;

  void setVariableInt(const std::string& key, int value, int) override {
    if (key == "$INSUNITS") unit = value;
  }
  void addBlock(const DL_BlockData& data) override { block_ = data.name; }
  void endBlock() override { block_.reset(); }
  void addLine(const DL_LineData& l) override {
    const Vec2 a(l.x1, l.y1);
    const Vec2 b(l.x2, l.y2);
    if ((a - b).norm() > 0) into().curves.emplace_back(sketch::StraightForm{a, b});
  }
  void addArc(const DL_ArcData& a) override {
    const double start = a.angle1 * kPi / 180;
    if (a.radius > 0) add({{a.cx, a.cy}, a.radius, start, turn_to(start, a.angle2 * kPi / 180)});
  }
  void addCircle(const DL_CircleData& c) override {
    if (c.radius > 0) add({{c.cx, c.cy}, c.radius, 0, 2 * kPi});
  }
  void addEllipse(const DL_EllipseData& e) override {
    const Vec2 major(e.mx, e.my);
    const double length = major.norm();
    if (!(length > 0) || !(e.ratio > 0)) return;
    into().curves.emplace_back(sketch::EllipticForm{{e.cx, e.cy},
                                                    major / length,
                                                    length,
                                                    e.ratio * length,
                                                    e.angle1,
                                                    turn_to(e.angle1, e.angle2)});
  }
  void addPoint(const DL_PointData& p) override { into().points.emplace_back(p.x, p.y); }
  void addInsert(const DL_InsertData& data) override { into().inserts.push_back(data); }
  void addPolyline(const DL_PolylineData& data) override {
    vertices_.clear();
    closed_ = (data.flags & 1) != 0;
    polyline_ = true;
  }
  void addVertex(const DL_VertexData& v) override { vertices_.push_back(v); }
  void addSpline(const DL_SplineData& data) override {
    spline_ = model::KernelSpline{};
    spline_->degree = static_cast<int>(data.degree);
    fit_.clear();
  }
  void addControlPoint(const DL_ControlPointData& p) override {
    if (!spline_) return;
    spline_->poles.emplace_back(p.x, p.y);
    spline_->weights.push_back(p.w > 0 ? p.w : 1);
  }
  void addKnot(const DL_KnotData& k) override {
    if (spline_) spline_->knots.push_back(k.k);
  }
  void addFitPoint(const DL_FitPointData& p) override { fit_.emplace_back(p.x, p.y); }
  void endEntity() override { end(); }
  void endSequence() override { end(); }
  void addText(const DL_TextData&) override { ++others["text"]; }
  void addMText(const DL_MTextData&) override { ++others["text"]; }
  void addHatch(const DL_HatchData&) override { ++others["hatch"]; }
  void addDimLinear(const DL_DimensionData&, const DL_DimLinearData&) override {
    ++others["dimension"];
  }
  void addDimAlign(const DL_DimensionData&, const DL_DimAlignedData&) override {
    ++others["dimension"];
  }
  void addDimRadial(const DL_DimensionData&, const DL_DimRadialData&) override {
    ++others["dimension"];
  }
  void addDimDiametric(const DL_DimensionData&, const DL_DimDiametricData&) override {
    ++others["dimension"];
  }
  void addXLine(const DL_XLineData&) override { ++others["endless line"]; }
  void addRay(const DL_RayData&) override { ++others["ray"]; }
  void addSolid(const DL_SolidData&) override { ++others["filled area"]; }
  void add3dFace(const DL_3dFaceData&) override { ++others["face"]; }

 private:
  Block& into() { return block_ ? blocks[*block_] : drawing; }
  void add(const sketch::RoundForm& form) { into().curves.emplace_back(form); }
  void end() {
    if (std::exchange(polyline_, false)) end_polyline();
    if (spline_) {
      if (spline_->poles.empty() && fit_.size() > 1) {
        ++others["spline through points without poles"];
      } else if (auto form = model::sketch_spline(*spline_)) {
        into().curves.emplace_back(*std::move(form));
      } else {
        ++others["spline that cannot be read"];
      }
      spline_.reset();
    }
  }
  /// Straight pieces and arcs: the bulge of a vertex is the tangent of a quarter of the arc's turn
  /// to the next, positive counter-clockwise.
  void end_polyline() {
    const std::size_t n = vertices_.size();
    for (std::size_t k = 0; k + (closed_ ? 0 : 1) < n; ++k) {
      const DL_VertexData& v = vertices_[k];
      const DL_VertexData& w = vertices_[(k + 1) % n];
      const Vec2 a(v.x, v.y);
      const Vec2 b(w.x, w.y);
      const double chord = (b - a).norm();
      if (!(chord > 0)) continue;
      if (std::abs(v.bulge) < 1e-9) {
        into().curves.emplace_back(sketch::StraightForm{a, b});
        continue;
      }
      const double turn = 4 * std::atan(v.bulge);
      const Vec2 d = (b - a) / chord;
      const Vec2 left(-d.y(), d.x());
      const Vec2 centre = 0.5 * (a + b) + chord / 2 / std::tan(turn / 2) * left;
      const Vec2 from = (v.bulge > 0 ? a : b) - centre;
      add({centre, from.norm(), std::atan2(from.y(), from.x()), std::abs(turn)});
    }
    vertices_.clear();
  }

  std::optional<std::string> block_;
  std::vector<DL_VertexData> vertices_;
  bool closed_ = false;
  bool polyline_ = false;
  std::optional<model::KernelSpline> spline_;
  std::vector<Vec2> fit_;
};

/// Adds a block's content where it is inserted, blocks within it too.
void expand(Gathering& from, const Block& content, const Placed& by, int depth, PlaneCurves& into) {
  constexpr int kDeepest = 16;  // blocks within blocks: one that holds itself ends here
  constexpr std::size_t kMost = 200000;
  if (depth > kDeepest || into.curves.size() > kMost) return;
  for (const sketch::Form& form : content.curves)
    into.curves.push_back(std::visit(MoveForm{by}, form));
  for (const Vec2& p : content.points) into.points.push_back(by.at(p));
  for (const DL_InsertData& insert : content.inserts) {
    const auto block = from.blocks.find(insert.name);
    if (block == from.blocks.end()) continue;
    if (std::abs(insert.sx - insert.sy) > 1e-9 * std::abs(insert.sx) || !(insert.sx > 0)) {
      ++from.others["block drawn out of proportion"];
      continue;
    }
    for (int row = 0; row < std::clamp(insert.rows, 1, 100); ++row) {
      for (int column = 0; column < std::clamp(insert.cols, 1, 100); ++column) {
        const double turn = insert.angle * kPi / 180;
        const Vec2 off = Eigen::Rotation2Dd(turn) * Vec2(column * insert.colSp, row * insert.rowSp);
        Placed inner;
        inner.scale = by.scale * insert.sx;
        inner.turn = by.turn + turn;
        inner.shift = by.at(Vec2(insert.ipx, insert.ipy) + off);
        expand(from, block->second, inner, depth + 1, into);
      }
    }
  }
}

/// mm of a drawing unit, by the header variable INSUNITS of the DXF reference.
double millimetres(int unit) {
  static const std::map<int, double> known{{1, 25.4}, {2, 304.8},   {4, 1},      {5, 10},
                                           {6, 1000}, {8, 2.54e-5}, {9, 0.0254}, {13, 1e-3}};
  const auto it = known.find(unit);
  return it != known.end() ? it->second : 1;
}

bool finite(const sketch::Form& form) {
  const auto curve = sketch::piece_of(form);
  const Vec2 a = curve->start();
  const Vec2 b = curve->middle();
  return a.allFinite() && b.allFinite() && a.cwiseAbs().maxCoeff() < 1e9;
}

}  // namespace

Result<PlaneCurves> read_dxf(const std::filesystem::path& path) {
  {
    std::ifstream file(path, std::ios::binary);
    if (!file) return Error{ErrorCode::Io, "Cannot open " + path.string() + "."};
    std::string head(4096, '\0');
    file.read(head.data(), static_cast<std::streamsize>(head.size()));
    head.resize(static_cast<std::size_t>(std::max<std::streamsize>(file.gcount(), 0)));
    if (head.starts_with("AutoCAD Binary"))
      return Error{ErrorCode::Io, path.string() + " is a binary DXF file. Save it as text."};
    if (head.find("SECTION") == std::string::npos)
      return Error{ErrorCode::Io, path.string() + " is no DXF drawing."};
  }
  Gathering gathered;
  DL_Dxf reader;
  bool good = false;
  try {
    good = reader.in(path.string(), &gathered);
  } catch (const std::exception&) {
    good = false;
  }
  if (!good) return Error{ErrorCode::Io, path.string() + " cannot be read as a DXF drawing."};
  PlaneCurves result;
  Placed unit;
  unit.scale = millimetres(gathered.unit);
  expand(gathered, gathered.drawing, unit, 0, result);
  const std::size_t before = result.curves.size();
  std::erase_if(result.curves, [](const sketch::Form& form) { return !finite(form); });
  if (result.curves.size() < before)
    gathered.others["curve with numbers beyond reason"] =
        static_cast<int>(before - result.curves.size());
  for (const auto& [what, count] : gathered.others)
    result.left_out.push_back(std::to_string(count) + " x " + what);
  if (result.curves.empty() && result.points.empty())
    return Error{ErrorCode::InvalidInput, path.string() + " holds no curves that can be drawn."};
  return result;
}

}  // namespace lostline::io
