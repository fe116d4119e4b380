import { settledAgcGainDb } from '@iron-hush/core/dynamics'
import { Mouth } from '../../core/src/render/mouth'
import { random } from '@iron-hush/core/signals'
const rate=48000, N=12*rate
const voice=new Float32Array(N); const m=new Mouth(rate,3); for(let f=0;f<N;f+=32) m.speak(voice,f,f+32,f/rate,1)
const r=random(5)
const white=Float32Array.from({length:N},()=> (r()*2-1)*Math.sqrt(1.5))
const band=(lo:number,hi:number)=>{const o=new Float32Array(N);let a=0,b=0;const l=1-Math.exp(-2*Math.PI*hi/rate),h=1-Math.exp(-2*Math.PI*lo/rate);let p=0;for(let i=0;i<N;i++){a+=l*(white[i]!-a);b+=h*(a-b);o[i]=a-b;p+=o[i]!**2} const k=1/Math.sqrt(2*p/N);return o.map(x=>x*k)}
const rumble=band(30,150), even=band(100,3000)
class Box { ring:Float64Array; at=0; sum=0; acc=0; n=0; short=0; g:number; held=0; d:number;a:number;re:number;h:number
 constructor(public agc:any, windowS:number, public overDb:number, start:number){ this.ring=new Float64Array(Math.round(windowS*rate/48)); this.d=1-Math.exp(-1000/(12*rate)); this.a=1-Math.exp(-1000/(agc.attackMs*rate)); this.re=1-Math.exp(-1000/(agc.releaseMs*rate)); this.h=agc.holdMs*rate/1000; this.g=start }
 next(x:number){ const p=x*x; this.short+=this.d*(p-this.short); this.acc+=p; if(++this.n===48){ this.sum+=this.acc-this.ring[this.at]!; this.ring[this.at]=this.acc; this.at=(this.at+1)%this.ring.length; this.acc=0; this.n=0 }
  const mean=Math.max(0,this.sum)/(this.ring.length*48)
  const lv=10*Math.log10(Math.max(1e-30,2*Math.max(mean,this.short*10**(-this.overDb/10))))
  const w=settledAgcGainDb(this.agc,lv)
  if(w<this.g){this.g+=this.a*(w-this.g);this.held=0}else if(this.held<this.h)this.held++;else this.g+=this.re*(w-this.g)
  return this.g }
}
for (const times of [{attackMs:40,holdMs:300,releaseMs:1500},{attackMs:10,holdMs:300,releaseMs:800},{attackMs:20,holdMs:100,releaseMs:3000}])
 for (const w of [0.012,0.2,0.4,0.66,1]) {
  const agc={target:-20,minimumGainDb:-60,maximumGainDb:60,...times}
  const row=[]
  for (const s of [voice,even,rumble]) { const b=new Box(agc,w,w<0.1?99:9,-17); let sum=0,c=0; for(let i=0;i<N;i++){const g=b.next(s[i]!); if(i>5*rate){sum+=10**(g/10)*s[i]!**2;c++}} row.push((10*Math.log10(2*sum/c)+20).toFixed(2)) }
  console.log(JSON.stringify(times), 'window', w, 'voice/even/rumble', row.join(' '))
 }
