#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <Eigen/Eigenvalues>
#include <IGESControl_Controller.hxx>
#include <IGESControl_Reader.hxx>
#include <IGESData_IGESModel.hxx>
#include <IGESGeom_ConicArc.hxx>
#include <Interface_Static.hxx>
#include <STEPControl_Reader.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>

#include "io/exchange.h"
#include "io/exchange_apart.h"
#include "io/files.h"
#include "io/read_curves.h"
#include "io/step_text.h"
#include "model/apart/kernel_process.h"
#include "model/edge_form.h"

namespace lostline::io {
namespace {

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

/// The plane of points; empty where they lie in none. Along a datum plane where they do, else about
/// their middle.
std::optional<Placement> plane_of(const std::vector<Vec3>& points, double size) {
  const double within = std::max(1e-4, 1e-6 * size);
  for (const Vec3& normal : {Vec3(Vec3::UnitZ()), Vec3(Vec3::UnitY()), Vec3(Vec3::UnitX())}) {
    Placement plane = placement_on(Vec3::Zero(), normal);
    const double level = points.front().dot(normal);
    if (std::any_of(points.begin(), points.end(),
                    [&](const Vec3& p) { return std::abs(p.dot(normal) - level) > within; }))
      continue;
    if (normal.z() > 0.5) plane.x = Vec3::UnitX(), plane.y = Vec3::UnitY();
    return plane.shifted(level);
  }
  Vec3 middle = Vec3::Zero();
  for (const Vec3& p : points) middle += p / static_cast<double>(points.size());
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const Vec3& p : points) spread += (p - middle) * (p - middle).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
  Vec3 normal = axes.eigenvectors().col(0);
  if (normal.sum() < 0) normal = -normal;
  for (const Vec3& p : points) {
    if (std::abs((p - middle).dot(normal)) > within) return std::nullopt;
  }
  return placement_on(middle, normal);
}

Result<PlaneCurves> curves_of(const TopoDS_Shape& shape, const std::filesystem::path& path) {
  TopTools_IndexedMapOfShape edges;
  if (!shape.IsNull()) TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  std::vector<BRepAdaptor_Curve> curves;
  std::vector<Vec3> points;
  Eigen::AlignedBox3d box;
  for (int k = 1; k <= edges.Extent(); ++k) {
    const TopoDS_Edge edge = TopoDS::Edge(edges(k));
    if (BRep_Tool::Degenerated(edge)) continue;
    curves.emplace_back(edge);
    constexpr int kSamples = 16;
    for (int s = 0; s <= kSamples; ++s) {
      const double t = curves.back().FirstParameter() +
                       s / static_cast<double>(kSamples) *
                           (curves.back().LastParameter() - curves.back().FirstParameter());
      points.push_back(vec(curves.back().Value(t)));
      box.extend(points.back());
    }
  }
  if (curves.empty()) return Error{ErrorCode::InvalidInput, path.string() + " holds no curves."};
  const auto plane = plane_of(points, box.diagonal().norm());
  if (!plane)
    return Error{ErrorCode::InvalidInput, "The curves of " + path.string() +
                                              " do not lie in one plane. A sketch is plane: choose "
                                              "a file with the curves of one plane."};
  PlaneCurves result;
  result.plane = *plane;
  int left = 0;
  for (const BRepAdaptor_Curve& curve : curves) {
    if (auto form = model::plane_form(curve, *plane))
      result.curves.push_back(*std::move(form));
    else
      ++left;
  }
  if (left > 0) result.left_out.push_back(std::to_string(left) + " x curve that cannot be read");
  return result;
}

/// Whether the ends of every conic lie on it; each gets the form that its numbers have. The kernel
/// turns for ever in an ellipse that is called a hyperbola.
bool conics_hold(const IGESControl_Reader& reader) {
  const opencascade::handle<IGESData_IGESModel> model = reader.IGESModel();
  for (int i = 1; !model.IsNull() && i <= model->NbEntities(); ++i) {
    const auto arc = opencascade::handle<IGESGeom_ConicArc>::DownCast(model->Entity(i));
    if (arc.IsNull()) continue;
    std::array<double, 6> c{};
    arc->Equation(c[0], c[1], c[2], c[3], c[4], c[5]);
    arc->OwnCorrect();
    for (const gp_Pnt2d& end : {arc->StartPoint(), arc->EndPoint()}) {
      const double x = end.X();
      const double y = end.Y();
      const std::array<double, 6> terms{c[0] * x * x, c[1] * x * y, c[2] * y * y,
                                        c[3] * x,     c[4] * y,     c[5]};
      double sum = 0;
      double size = 0;
      for (const double term : terms) {
        sum += term;
        size += std::abs(term);
      }
      constexpr double kOff = 0.01;  // of the terms: what writers with few digits leave
      if (!(std::abs(sum) <= kOff * size)) return false;
    }
  }
  return true;
}
bool conics_hold(const STEPControl_Reader&) { return true; }

template <class Reader>
Result<PlaneCurves> read_with(const std::filesystem::path& path) {
  if (!std::filesystem::exists(path))
    return Error{ErrorCode::Io, "Cannot open " + path.string() + "."};
  const std::scoped_lock lock(exchange_mutex());
  silence_exchange();
  try {
    IGESControl_Controller::Init();
    Interface_Static::SetCVal("xstep.cascade.unit", "MM");
    Reader reader;
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone)
      return Error{ErrorCode::Io,
                   path.string() + " cannot be read: it is damaged or of another format."};
    if (!conics_hold(reader))
      return Error{ErrorCode::InvalidInput,
                   path.string() + " is damaged: a conic in it does not go through its own ends."};
    reader.TransferRoots();
    return curves_of(reader.OneShape(), path);
  } catch (const Standard_Failure&) {
    return Error{ErrorCode::Io, path.string() + " cannot be read: it is damaged."};
  }
}

/// Whether the parameters in a line hold a number that no drawing in millimetres has.
bool beyond_all_sizes(std::string_view parameters) {
  constexpr int kMostExponent = 30;
  const auto digit = [](char c) { return c >= '0' && c <= '9'; };
  for (std::size_t k = 1; k + 1 < parameters.size(); ++k) {
    if ((parameters[k] != 'E' && parameters[k] != 'D') ||
        !(digit(parameters[k - 1]) || parameters[k - 1] == '.'))
      continue;
    std::size_t at = k + 1;
    if (parameters[at] == '+' || parameters[at] == '-') ++at;
    int exponent = 0;
    for (; at < parameters.size() && digit(parameters[at]); ++at)
      exponent = std::min(1000, 10 * exponent + (parameters[at] - '0'));
    if (exponent > kMostExponent) return true;
  }
  return false;
}

/// Whether a file's lines are such as IGES has: 80 columns of ASCII, the letter of a section in the
/// 73rd, and fields of whole numbers in the directory (IGES 5.3, 2.2). The kernel's reader turns
/// for ever in what some damaged lines seem to say.
Status has_records(const std::filesystem::path& path) {
  constexpr std::size_t kColumns = 80;
  constexpr std::size_t kSection = 72;
  constexpr std::size_t kField = 8;
  std::ifstream file(path, std::ios::binary);
  std::string line;
  for (std::size_t number = 1; std::getline(file, line); ++number) {
    if (!line.empty() && line.back() == '\r') line.pop_back();
    if (line.empty()) continue;
    const auto wrong = [&](const std::string& what) {
      return Error{ErrorCode::InvalidInput, path.string() + " is damaged in line " +
                                                std::to_string(number) + ": " + what + "."};
    };
    if (line.size() != kColumns)
      return wrong("it has " + std::to_string(line.size()) + " columns where IGES has 80");
    if (std::string_view("SGDPTF").find(line[kSection]) == std::string_view::npos)
      return wrong("it belongs to no section of an IGES file");
    if (std::any_of(line.begin(), line.end(), [](char c) { return c < ' ' || c > '~'; }))
      return wrong("it holds a byte that is no letter of ASCII");
    if (line.find_first_not_of(" 0123456789", kSection + 1) != std::string::npos)
      return wrong("its number is none");
    if (line[kSection] == 'P' && beyond_all_sizes(std::string_view(line).substr(0, 64)))
      return wrong("a number in it is beyond all sizes");
    if (line[kSection] != 'D') continue;
    // The last fields of an entry's second line are text.
    for (std::size_t field = 0; field < 6; ++field) {
      const std::string text = line.substr(field * kField, kField);
      if (text.find_first_not_of(" +-0123456789") != std::string::npos)
        return wrong("a field of the directory is no whole number");
    }
  }
  return Done{};
}

}  // namespace

Result<PlaneCurves> read_curves_here(const std::filesystem::path& path, bool iges) {
  return iges ? read_with<IGESControl_Reader>(path) : read_with<STEPControl_Reader>(path);
}

Result<PlaneCurves> read_curves_iges(const std::filesystem::path& path) {
  if (const Status sound = has_records(path); !sound) return sound.error();
  return model::has_kernel_process() ? read_curves_apart(path, true) : read_curves_here(path, true);
}
Result<PlaneCurves> read_curves_step(const std::filesystem::path& path) {
  const Result<MappedFile> file = MappedFile::open(path);
  if (!file) return file.error();
  if (const Status sound = check_step_text(file->text(), path.string()); !sound)
    return sound.error();
  return model::has_kernel_process() ? read_curves_apart(path, false)
                                     : read_curves_here(path, false);
}

}  // namespace lostline::io
