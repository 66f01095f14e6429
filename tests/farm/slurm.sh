#!/usr/bin/env bash
# SPDX-License-Identifier: GPL-3.0-or-later
# A Slurm workload manager of two nodes on this machine, without systemd: slurm.sh start FOLDER | stop FOLDER | kill FOLDER NODE | node FOLDER NODE. Needs root and the
# packages slurmctld, slurmd, slurm-client and munge. Prints the file to name in SLURM_CONF.
set -euo pipefail
folder=$(realpath -m "$2")
export SLURM_CONF=$folder/slurm.conf
node() {
  mkdir -p "$folder/spool-n$1"
  slurmd -f "$SLURM_CONF" -N "n$1" -L "$folder/slurmd-n$1.log"
}
case $1 in
start)
  mkdir -p "$folder/state" /run/munge /etc/munge /var/log/munge /var/lib/munge
  [ -s /etc/munge/munge.key ] || dd if=/dev/urandom of=/etc/munge/munge.key bs=1024 count=1 status=none
  chown -R munge: /run/munge /etc/munge /var/log/munge /var/lib/munge
  chmod 400 /etc/munge/munge.key
  chmod 755 /run/munge
  pgrep -x munged >/dev/null || runuser -u munge -- munged
  cat >"$SLURM_CONF" <<CONF
ClusterName=lantern
SlurmctldHost=$(hostname)(127.0.0.1)
AuthType=auth/munge
SlurmUser=root
SlurmdUser=root
StateSaveLocation=$folder/state
SlurmdSpoolDir=$folder/spool-%n
SlurmctldPidFile=$folder/slurmctld.pid
SlurmdPidFile=$folder/slurmd-%n.pid
SlurmctldPort=17000
ProctrackType=proctrack/linuxproc
TaskPlugin=task/none
SwitchType=switch/none
JobAcctGatherType=jobacct_gather/none
SelectType=select/cons_tres
SelectTypeParameters=CR_Core
ReturnToService=2
SlurmctldTimeout=20
SlurmdTimeout=15
InactiveLimit=0
SlurmdParameters=config_overrides
NodeName=n[0-1] NodeHostname=$(hostname) NodeAddr=127.0.0.1 Port=[17001-17002] CPUs=1 RealMemory=2000 State=UNKNOWN
PartitionName=all Nodes=n[0-1] Default=YES MaxTime=INFINITE State=UP
CONF
  echo "CgroupPlugin=cgroup/v1" >"$folder/cgroup.conf"
  slurmctld -f "$SLURM_CONF" -L "$folder/slurmctld.log"
  node 0
  node 1
  for _ in $(seq 100); do
    [ "$(sinfo -h -o %T 2>/dev/null | sort -u)" = idle ] && break
    sleep 0.2
  done
  sinfo -h -o %T | grep -q idle || { cat "$folder"/*.log >&2; exit 1; }
  echo "$SLURM_CONF"
  ;;
kill) kill -9 "$(cat "$folder/slurmd-n$3.pid")" ;; # its tasks go on as orphans
node) node "$3" ;;
stop)
  for pid in "$folder"/*.pid; do [ -e "$pid" ] && kill "$(cat "$pid")" 2>/dev/null || true; done
  ;;
esac
