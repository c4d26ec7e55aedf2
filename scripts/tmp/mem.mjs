import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
const env={...process.env, DATABASE_URL:'postgres://malle@127.0.0.1:54310/malle_prof', MALLE_PORT:'4777', MALLE_METRICS:'9556', MALLE_LOG:'error', ...(process.argv[3]?{MALLOC_ARENA_MAX:process.argv[3]}:{})};
const s=spawn(process.execPath,['dist/server/server.js'],{env,stdio:['ignore','pipe','inherit']});
await new Promise(r=>s.stdout.on('data',d=>/Malle is at/.test(d)&&r()));
const base='http://127.0.0.1:4777/api';
const people=(await (await fetch(base+'/session')).json()).demoPeople;
const r=await fetch(base+'/session/demo',{method:'POST',headers:{'content-type':'application/json'},body:JSON.stringify({personId:people.find(p=>p.role==='custodian').id})});
const cookie=r.headers.get('set-cookie').split(';')[0];
const get=async p=>{const a=await fetch(base+p,{headers:{cookie}}); const b=await a.arrayBuffer(); return [a.status,b.byteLength];};
const rss=async(w)=>{const t=await (await fetch('http://127.0.0.1:9556/metrics')).text(); const g=n=>Math.round(Number(new RegExp('^'+n+' (\\S+)','m').exec(t)?.[1]??0)/1048576); const st=readFileSync(`/proc/${s.pid}/status`,'utf8'); console.log(w, 'rss',g('process_resident_memory_bytes'),'heap',g('nodejs_heap_size_used_bytes'),'total',g('nodejs_heap_size_total_bytes'),'ext',g('nodejs_external_memory_bytes'),'threads',/Threads:\s+(\d+)/.exec(st)[1]);};
await rss('start');
const what=process.argv[2]??'all';
const paths={pdf:['/reports.pdf?from=1767225600000&to=1772496000000','/exports/readings.pdf?from=1767225600000&to=1772496000000'],archive:['/archive'],json:['/packs','/today','/register','/reports?from=1767225600000&to=1772496000000']};
for (const k of (what==='all'?Object.keys(paths):[what])) for (let i=0;i<12;i++){ for (const p of paths[k]) { const x=await get(p); if(i===0) console.log(p,x);} if(i%4===3) await rss(k+' '+(i+1)); }
await new Promise(r=>setTimeout(r,40000)); await rss('rested');
s.kill('SIGKILL');
