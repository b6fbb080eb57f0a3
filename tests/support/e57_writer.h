#pragma once

#include <array>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"

// Files of points as ASTM E2807-11 has them (sections 9 and 10), for tests of the reader.

namespace lostline::testing {

/// CRC-32C, a bit at a time (polynomial and check values: RFC 3720, section 12.1 and appendix B.4).
inline std::uint32_t crc32c(const std::string& bytes) {
  std::uint32_t crc = 0xFFFFFFFF;
  for (const char byte : bytes) {
    crc ^= static_cast<unsigned char>(byte);
    for (int bit = 0; bit < 8; ++bit) crc = (crc & 1U) != 0 ? (crc >> 1U) ^ 0x82F63B78U : crc >> 1U;
  }
  return ~crc;
}

/// One scan of a file, in metres.
struct E57Scan {
  std::vector<Vec3> metres;
  unsigned bits = 0;  ///< of each coordinate as a scaled integer of a tenth of a mm; 0: doubles
  std::size_t per_packet = 4000;  ///< bytes of each column
  /// Where the scanner stood, turned by a quarter about z.
  std::optional<Vec3> stood;
};

/// Pages of 1024 bytes with four of checksum, points in packets of bit streams.
class E57Writer {
 public:
  enum class Checksums { Zero, BigEndian, LittleEndian };

  static std::string file(const std::vector<E57Scan>& scans,
                          Checksums checksums = Checksums::BigEndian) {
    std::string body(48, '\0');
    std::string described;
    for (const E57Scan& scan : scans) {
      const std::size_t section = body.size();
      body += section_of(scan, section);
      described += description_of(scan, section);
    }
    const std::string xml =
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?><e57Root type=\"Structure\"><data3D "
        "type=\"Vector\">" +
        described + "</data3D></e57Root>";
    return with_description(body, xml, checksums);
  }
  /// A file whose description is what one likes.
  static std::string with_description(std::string body, const std::string& xml,
                                      Checksums checksums = Checksums::BigEndian) {
    if (body.size() < 48) body.resize(48, '\0');
    const std::size_t xml_at = body.size();
    body += xml;
    std::memcpy(body.data(), "ASTM-E57", 8);
    put<std::uint32_t>(body, 8, 1);
    put<std::uint64_t>(body, 16, (body.size() + 1019) / 1020 * 1024);
    put<std::uint64_t>(body, 24, physical(xml_at));
    put<std::uint64_t>(body, 32, xml.size());
    put<std::uint64_t>(body, 40, 1024);
    std::string pages;
    for (std::size_t at = 0; at < body.size(); at += 1020) {
      std::string page = body.substr(at, 1020);
      page.resize(1020, '\0');
      const std::uint32_t sum = crc32c(page);
      for (unsigned k = 0; k < 4; ++k) {
        const unsigned shift = 8 * (checksums == Checksums::BigEndian ? 3 - k : k);
        page += checksums == Checksums::Zero ? '\0' : static_cast<char>(sum >> shift & 0xFFU);
      }
      pages += page;
    }
    return pages;
  }

 private:
  static std::size_t physical(std::size_t logical) {
    return logical / 1020 * 1024 + logical % 1020;
  }
  template <class T>
  static void put(std::string& bytes, std::size_t at, T value) {
    std::memcpy(bytes.data() + at, &value, sizeof value);
  }
  static std::string section_of(const E57Scan& scan, std::size_t section) {
    std::array<std::string, 3> streams;
    const double least = -std::ldexp(1.0, static_cast<int>(scan.bits) - 1);
    for (int k = 0; k < 3; ++k) {
      std::string& stream = streams[static_cast<std::size_t>(k)];
      std::uint64_t held = 0;
      unsigned filled = 0;
      for (const Vec3& p : scan.metres) {
        if (scan.bits == 0) {
          const double value = p[k];
          stream.append(reinterpret_cast<const char*>(&value), 8);
          continue;
        }
        held |= static_cast<std::uint64_t>(std::llround(p[k] / 1e-4 - least)) << filled;
        filled += scan.bits;
        while (filled >= 8) {
          stream += static_cast<char>(held & 0xFFU);
          held >>= 8U;
          filled -= 8;
        }
      }
      if (filled > 0) stream += static_cast<char>(held & 0xFFU);
    }
    std::string packets;
    for (std::size_t at = 0; at < streams[0].size(); at += scan.per_packet) {
      const std::size_t some = std::min(scan.per_packet, streams[0].size() - at);
      std::string packet(6 + 6, '\0');
      packet[0] = 1;
      put<std::uint16_t>(packet, 4, 3);
      for (std::size_t k = 0; k < 3; ++k) {
        put<std::uint16_t>(packet, 6 + 2 * k, static_cast<std::uint16_t>(some));
        packet += streams[k].substr(at, some);
      }
      while (packet.size() % 4 != 0) packet += '\0';
      put<std::uint16_t>(packet, 2, static_cast<std::uint16_t>(packet.size() - 1));
      packets += packet;
    }
    std::string head(32, '\0');
    head[0] = 1;
    put<std::uint64_t>(head, 8, 32 + packets.size());
    put<std::uint64_t>(head, 16, physical(section + 32));
    return head + packets;
  }
  static std::string description_of(const E57Scan& scan, std::size_t section) {
    const long long end = scan.bits == 0 ? 0 : 1LL << (scan.bits - 1);
    const std::string type = scan.bits == 0
                                 ? "type=\"Float\" precision=\"double\""
                                 : "type=\"ScaledInteger\" minimum=\"" + std::to_string(-end) +
                                       "\" maximum=\"" + std::to_string(end - 1) +
                                       "\" scale=\"1e-4\" offset=\"0\"";
    std::string pose;
    if (scan.stood) {
      const auto number = [](const char* name, double value) {
        return std::string("<") + name + " type=\"Float\">" + std::to_string(value) + "</" + name +
               ">";
      };
      pose =
          "<pose type=\"Structure\"><rotation type=\"Structure\"><w "
          "type=\"Float\">0.7071067811865476</w><x type=\"Float\"/><y type=\"Float\"/><z "
          "type=\"Float\">0.7071067811865476</z></rotation><translation type=\"Structure\">" +
          number("x", scan.stood->x()) + number("y", scan.stood->y()) +
          number("z", scan.stood->z()) + "</translation></pose>";
    }
    return "<vectorChild type=\"Structure\">" + pose +
           "<points type=\"CompressedVector\" fileOffset=\"" + std::to_string(physical(section)) +
           "\" recordCount=\"" + std::to_string(scan.metres.size()) +
           "\"><prototype type=\"Structure\"><cartesianX " + type + "/><cartesianY " + type +
           "/><cartesianZ " + type + "/></prototype></points></vectorChild>";
  }
};

}  // namespace lostline::testing
