// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>

/// Codes of the picture transfer protocol (ISO 15740:2013) that our stand-in knows, from memory; they are held to
/// libgphoto2 by every test that talks through it.
namespace ml::ptp {

namespace operation {
inline constexpr std::uint16_t kGetDeviceInfo = 0x1001, kOpenSession = 0x1002, kCloseSession = 0x1003,
                               kGetStorageIds = 0x1004, kGetStorageInfo = 0x1005, kGetNumObjects = 0x1006,
                               kGetObjectHandles = 0x1007, kGetObjectInfo = 0x1008, kGetObject = 0x1009,
                               kDeleteObject = 0x100B, kSendObjectInfo = 0x100C, kSendObject = 0x100D,
                               kInitiateCapture = 0x100E, kGetPropDescription = 0x1014, kGetPropValue = 0x1015,
                               kSetPropValue = 0x1016, kTerminateOpenCapture = 0x1018, kGetPartialObject = 0x101B,
                               kInitiateOpenCapture = 0x101C;
} // namespace operation

namespace response {
inline constexpr std::uint16_t kOk = 0x2001, kGeneralError = 0x2002, kSessionNotOpen = 0x2003,
                               kOperationNotSupported = 0x2005, kIncompleteTransfer = 0x2007, kInvalidStorage = 0x2008,
                               kInvalidHandle = 0x2009, kPropNotSupported = 0x200A, kStoreFull = 0x200C,
                               kAccessDenied = 0x200F, kDeviceBusy = 0x2019, kInvalidPropFormat = 0x201B,
                               kInvalidPropValue = 0x201C, kInvalidParameter = 0x201D, kSessionAlreadyOpen = 0x201E;
} // namespace response

namespace event {
inline constexpr std::uint16_t kObjectAdded = 0x4002, kDevicePropChanged = 0x4006, kStoreFull = 0x400A,
                               kCaptureComplete = 0x400D;
} // namespace event

namespace property {
inline constexpr std::uint16_t kBattery = 0x5001, kFNumber = 0x5007, kExposureTime = 0x500D, kExposureProgram = 0x500E,
                               kExposureIndex = 0x500F, kExposureBias = 0x5010;
/// Our stand-in's own bracketing, in the range that the standard leaves to makers: frames (1: off) and thousandths of a
/// stop between them.
inline constexpr std::uint16_t kBracketFrames = 0xD101, kBracketStep = 0xD102;
} // namespace property

namespace type {
inline constexpr std::uint16_t kUint8 = 0x0002, kInt16 = 0x0003, kUint16 = 0x0004, kUint32 = 0x0006;
} // namespace type

namespace format {
inline constexpr std::uint16_t kUndefined = 0x3000, kFolder = 0x3001, kJpeg = 0x3801, kTiff = 0x380D, kDng = 0x3811;
} // namespace format

} // namespace ml::ptp
