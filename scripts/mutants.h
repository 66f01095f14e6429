// SPDX-License-Identifier: GPL-3.0-or-later
// Included before every file of the mutants' build (scripts/mutants): small faults, asleep until ML_MUTANT names one.
#pragma once
#include <cstdlib>
#include <fcntl.h>
#include <unistd.h>

namespace mutant {

inline const int kAwake = std::getenv("ML_MUTANT") ? std::atoi(std::getenv("ML_MUTANT")) : 0;

/// The fault `id` shows now; ML_MUTANT_SEEN: a file that is made when its place is reached.
inline bool on(int id) {
  if (id != kAwake) return false;
  static const bool told = [] {
    if (const char* file = std::getenv("ML_MUTANT_SEEN")) ::close(::open(file, O_CREAT | O_WRONLY, 0644));
    return true;
  }();
  return told;
}
inline int sign(int id) { return on(id) ? -1 : 1; }

/// `a < Than{id} < b`: as strict as it stands, or the other way round.
template <class A> struct Left {
  const A& a;
  int id;
};
struct Than {
  int id;
};
#define ML_OTHERWISE(WRITTEN, OTHER)                                                                                   \
  template <class A> Left<A> operator WRITTEN(const A& a, Than than) { return {a, than.id}; }                          \
  template <class A, class B> bool operator WRITTEN(Left<A> left, const B& b) {                                        \
    return on(left.id) ? left.a OTHER b : left.a WRITTEN b;                                                            \
  }
ML_OTHERWISE(<, <=)
ML_OTHERWISE(<=, <)
ML_OTHERWISE(>, >=)
ML_OTHERWISE(>=, >)
ML_OTHERWISE(==, !=)
ML_OTHERWISE(!=, ==)
#undef ML_OTHERWISE

template <class A> Left<A> operator*(const A& a, Than than) { return {a, than.id}; }
template <class A, class B> auto operator*(Left<A> left, const B& b) {
  using Value = decltype(left.a * b);
  return on(left.id) ? Value(left.a / b) : Value(left.a * b);
}

template <class T> const T& least(int id, const T& a, const T& b) { return (b < a) != on(id) ? b : a; }
template <class T> const T& most(int id, const T& a, const T& b) { return (a < b) != on(id) ? b : a; }

} // namespace mutant
