// SPDX-License-Identifier: GPL-3.0-or-later
// The Marl Quay ferry house, boat hall: an invented place, rendered as scene-linear radiance.
// Part chooses what is rendered (render.sh calls it once for each):
//   0 the hall and the view, without anything that moves   1 a walker on the slip   3 the sail
//   4 bunting across the doors   5 the view alone (water at another moment)   6 where the view shows (white)   7 where the lake lies (white)
// Frame=n moves what Part shows; random placement stays fixed.
#version 3.7;
#include "functions.inc"
#ifndef(Part) #declare Part=0; #end
#ifndef(Frame) #declare Frame=0; #end
#ifndef(Q) #declare Q=1; #end
#declare Room=(Part=0|Part=6);
#declare View=(Part=0|Part=5|Part=7);
#declare Lit=(Part<6);
#declare R=seed(1183);
#macro rr(a,b) (a+(b-a)*rand(R)) #end
#include "../common.inc"
#if(Part>0) #declare NoRad=1; #end
global_settings{ assumed_gamma 1.0 max_trace_level 7 adc_bailout 0.0002
#ifndef(NoRad)
  radiosity{ pretrace_start 0.08 pretrace_end (Q>0?0.01:0.02) count (Q>0?220:90) nearest_count 12 error_bound (Q>0?0.42:0.7)
    low_error_factor 0.6 recursion_limit 2 minimum_reuse 0.01 gray_threshold 0 brightness 1 adc_bailout 0.001 always_sample off }
#end
}
#default{ finish{ ambient 0 emission 0.02 diffuse 1 } }
#declare SkyL=9;
#declare SunDir=vnormalize(<-0.62,0.60,0.50>);
#declare SunC=<1.0,0.88,0.70>*58;
#declare LakeY=-0.85;
// the doorway: x -1.9..1.9, y 0..3.1, at z = 5
#declare DX=1.9; #declare DY=3.1; #declare DZ=5;
camera{ location <1.25,1.55,-5.6> right x*1.5 up y angle 64 look_at <-0.35,1.35,5> }
#if(Lit) light_source{ SunDir*5000 rgb SunC parallel point_at 0 area_light x*40,y*40,(Q>0?4:3),(Q>0?4:3) adaptive 1 jitter circular orient } #end
#if(Room & Lit)
light_source{ <0,DY/2,DZ> rgb <0.66,0.80,1.0>*SkyL*1.25*(2*DX*DY)/(2*pi)
  spotlight point_at <0,DY/2-0.4,DZ-1> radius 0 falloff 89.9 tightness 1
  area_light x*DX*1.8,y*DY*0.9,(Q>0?5:4),(Q>0?5:4) area_illumination on fade_distance 1 fade_power 2 }
#end

#if(Room)
// ---------------------------------------------------------------- shell: posts, boards, high roof
#declare HX=4.2; #declare HW=3.5; #declare Apex=6.0;
difference{ box{<-HX-.1,-1.6,-7.6>,<HX+.1,6.6,DZ+.2>}
  prism{ linear_sweep linear_spline -7.5,DZ+.06,6 <-HX,-1.5>,<HX,-1.5>,<HX,HW>,<0,Apex+.1>,<-HX,HW>,<-HX,-1.5> rotate -90*x scale<1,1,-1> }
  box{<-DX,-0.02,4>,<DX,DY,6>} box{<-.8,3.75,4>,<.8,4.75,6>} texture{Black}}
// floor: worn planks with a slip cut in the middle
#local X=-HX; #while(X<HX) #local w=rr(0.16,0.21); #local z0=-7.5-rr(0,1.5);
  #while(z0<DZ+.4) #local l=rr(2.0,3.6); object{Board(w-0.005,0.05,min(l,DZ+.5-z0)-0.005,FloorD*1.05,FloorL*1.0,0.22) translate <X+w/2,-0.025+rr(-0.002,0.002),z0+min(l,DZ+.5-z0)/2>} #local z0=z0+l; #end
  #local X=X+w; #end
box{<-HX,-0.3,-7.5>,<HX,-0.055,DZ+.5> texture{Black}}
// end wall around the doorway
#local X=-HX; #while(X<HX) #local w=0.165;
  #if(X+w<-DX | X>DX) object{Board(w-.004,.035,6.4,WallD,WallL,.1) rotate x*90 translate<X+w/2,3.0,DZ-.01+rr(0,.006)>}
  #else #if(abs(X+w/2)>.84) object{Board(w-.004,.035,3.0,WallD,WallL,.1) rotate x*90 translate<X+w/2,DY+1.5,DZ-.01+rr(0,.006)>}
  #else object{Board(w-.004,.035,.62,WallD,WallL,.1) rotate x*90 translate<X+w/2,DY+.32,DZ-.01>} object{Board(w-.004,.035,1.4,WallD,WallL,.1) rotate x*90 translate<X+w/2,5.48,DZ-.01>} #end #end #local X=X+w; #end
#for(s,-1,1,2) object{Board(.17,.17,3.3,BeamD,BeamL,.12) rotate x*90 translate<s*(DX+.07),1.6,DZ-.06>} #end
object{Board(.17,.2,4.3,BeamD,BeamL,.12) rotate y*90 translate<0,DY+.09,DZ-.07>}
// small upper window: bars
#for(i,0,4) object{Board(.035,.04,1.0,BeamD,BeamL,.1) rotate x*90 translate<-.8+.4*i,4.25,DZ-.03>} #end
#for(i,0,2) object{Board(.04,.035,1.6,BeamD,BeamL,.1) rotate y*90 translate<0,3.76+.5*i,DZ-.03>} #end
// side walls
#for(s,-1,1,2)
#local Y=0; #while(Y<HW) #local h=0.205; #local z0=-7.5; #while(z0<DZ) #local l=rr(3,4.4);
  object{Board(h-.005,.035,l-.004,WallD,WallL,.1) rotate z*90 translate<s*(HX-.02-rr(0,.006)),Y+h/2,z0+l/2>} #local z0=z0+l; #end #local Y=Y+h; #end
#local Z=-6.6; #while(Z<5) object{Board(.16,.16,3.5,BeamD,BeamL,.12) rotate x*90 translate<s*(HX-.13),1.75,Z>}
  object{Board(.12,.12,1.5,BeamD,BeamL,.12) rotate x*(45)  rotate y*(s*90) translate<s*(HX-.62),3.02,Z>} #local Z=Z+2.3; #end
#local D=0; #local Ang=degrees(atan2(Apex-HW,HX)); #local Len=sqrt(HX*HX+(Apex-HW)*(Apex-HW)); #while(D<Len)
  object{Board(.19,.035,5.0,WallD,WallL,.1) rotate z*(-s*Ang) translate<s*D*cos(radians(Ang)),Apex-D*sin(radians(Ang)),2.55>}
  object{Board(.19,.035,7.4,WallD,WallL,.1) rotate z*(-s*Ang) translate<s*D*cos(radians(Ang)),Apex-D*sin(radians(Ang)),-3.7>} #local D=D+.195; #end
#local Z=-6.6; #while(Z<5.1) object{Board(.11,.16,Len,BeamD,BeamL,.1) rotate y*90 rotate z*(-s*Ang) translate<s*HX/2,(Apex+HW)/2-.13,Z>} #local Z=Z+1.15; #end
#end
#local Z=-6.6; #while(Z<5) object{Board(.18,.22,2*HX,BeamD,BeamL,.14) rotate y*90 translate<0,HW,Z>} object{Board(.13,.13,2.0,BeamD,BeamL,.12) rotate x*90 translate<0,4.75,Z>} #local Z=Z+2.3; #end
box{<-HX,-.1,-7.5>,<HX,6,-7.45> pigment{rgb WallL*.5}}
// door leaves, folded out
#for(s,-1,1,2) union{ #for(i,0,8) object{Board(.20,.045,3.05,<.05,.075,.08>,<.11,.16,.165>,.12) rotate x*90 translate<.1+.206*i,1.53,0>} #end
  object{Board(.16,.05,1.8,<.05,.075,.08>,<.10,.15,.155>,.12) rotate y*90 translate<.93,.5,-.045>} object{Board(.16,.05,1.8,<.05,.075,.08>,<.10,.15,.155>,.12) rotate y*90 translate<.93,2.5,-.045>}
  rotate y*(s>0?-78:258) translate<s*DX,0,DZ+.14> no_radiosity } #end

// ---------------------------------------------------------------- a clinker boat on trestles
#declare HullC=<.30,.135,.055>;
#macro HullP(k,a) // k along -1..1, a from keel 0 to sheer 1
  #local bw=.82*pow(max(0,1-pow(abs(k),2.4)),.62); #local sh=.30+.16*k*k;
  <bw*pow(sin(a*pi/2),.8), -.32+.04*k*k+(sh+.32-.04*k*k)*(1-cos(a*pi/2)), 2.3*k>
#end
#macro Strake(n,Gap) #local NU=44; mesh2{ vertex_vectors{ (NU+1)*2 #for(i,0,NU) #local k=-1+2*i/NU; #local A=HullP(k*.995,n/8); #local B=HullP(k*.995,(n+1.16)/8); ,A+<Gap,0,0>*(A.x>0.01?1:0),B+<Gap+.012,0,0>*(B.x>0.01?1:0) #end }
  face_indices{ NU*2 #for(i,0,NU-1) ,<2*i,2*i+1,2*i+2>,<2*i+1,2*i+3,2*i+2> #end } texture{ pigment{ granite color_map{[0 rgb HullC*.62*(.8+.06*mod(n*5,7))][1 rgb HullC*1.25*(.8+.06*mod(n*5,7))]} scale<.1,.05,1.2>} finish{diffuse .85 specular .5 roughness .02 reflection{0,.3 fresnel on} conserve_energy} } interior{ior 1.45} } #end
union{
 #for(n,0,7) object{Strake(n,0)} object{Strake(n,0) scale<-1,1,1>} #end
 #for(i,0,40) #local k=-.985+1.97*i/40; #local k2=-.985+1.97*(i+1)/40; #if(i<40) #local A=HullP(k,1); #local B=HullP(k2,1); cylinder{A,B,.028} cylinder{A*<-1,1,1>,B*<-1,1,1>,.028} #end #end
 #for(i,0,14) #local k=-.8+1.6*i/14; #for(n,0,7) #local A=HullP(k,n/8); #local B=HullP(k,(n+1)/8); cylinder{A*.965,B*.965,.016} cylinder{A*<-.965,.965,.965>,B*<-.965,.965,.965>,.016} #end #end
 box{<-.72,.06,-.16>,<.72,.10,.16>} box{<-.62,.08,.95>,<.62,.12,1.24>} box{<-.62,.08,-1.3>,<.62,.12,-1.0>}
 cylinder{<0,-.34,-2.2>,<0,-.34,2.2>,.035} cylinder{<0,-.32,2.27>,<0,.50,2.33>,.04} cylinder{<0,-.32,-2.27>,<0,.50,-2.33>,.04}
 WoodTex(FurnD,FurnL,.03,.35) rotate y*9 translate<-.75,.98,.2> }
#for(e,-1,1,2) union{ object{Board(.09,.09,1.3,BeamD,BeamL,.1) rotate y*90 translate<0,.60,0>} #for(s,-1,1,2) object{Board(.07,.07,.66,BeamD,BeamL,.1) rotate x*90 rotate z*(s*14) translate<s*.52,.3,-.14>} object{Board(.07,.07,.66,BeamD,BeamL,.1) rotate x*90 rotate z*(s*14) translate<s*.52,.3,.14>} #end rotate y*9 translate<-.75+e*.2,0,.2+e*1.25> } #end
// shavings and a plane's curl on the floor
#local n=0; #while(n<90) torus{rr(.012,.03),.0035 scale<1,rr(1,3),1> rotate<rr(0,180),rr(0,360),0> translate<-.9+rr(-1.2,1.4),.012,rr(-1.9,1.2)> pigment{rgb<.52,.38,.22>*rr(.7,1.1)} finish{diffuse .9} } #local n=n+1; #end

// ---------------------------------------------------------------- workbench, left wall
union{ #for(i,0,3) object{Board(.19,.06,3.0,FurnD,FurnL,.25) translate<-.3+.2*i,.86,0>} #end #for(j,0,1) #for(i,0,1) object{Board(.1,.1,.83,BeamD,BeamL,.1) rotate x*90 translate<-.3+.6*i,.415,-1.35+2.7*j>} #end #end object{Board(.6,.03,2.7,BeamD,BeamL,.1) translate<0,.25,0>}
 translate<-3.62,0,1.2> }
#local TC=array[6]{<.30,.05,.035>,<.09,.16,.19>,<.42,.38,.28>,<.05,.10,.06>,<.34,.22,.07>,<.12,.12,.13>};
#for(i,0,6) union{ difference{cylinder{0,y*.17,.075} cylinder{y*.01,y*.18,.070} pigment{rgb<.34,.34,.33>} finish{diffuse .6 specular .6 roughness .02 reflection .06} } cylinder{y*.045,y*.125,.0755 pigment{rgb TC[mod(i,6)]} finish{diffuse .9}} cylinder{y*.13,y*.135,.069 pigment{rgb TC[mod(i,6)]*1.3} finish{diffuse .8 specular .4}} scale rr(.8,1.15) translate<-3.72+rr(-.12,.12),.892,.0+.27*i+rr(-.04,.04)> } #end
#for(i,0,4) union{ cylinder{0,y*.16,.011 pigment{rgb<.30,.17,.07>} finish{diffuse .9 specular .3}} box{<-.03,.16,-.01>,<.03,.23,.01> pigment{rgb<.24,.19,.13>} finish{diffuse .9}} rotate z*rr(-16,16) rotate y*rr(0,180) translate<-3.42,.96,.35+.05*i> } #end
difference{cylinder{<-3.42,.89,.45>,<-3.42,1.02,.45>,.075} cylinder{<-3.42,.90,.45>,<-3.42,1.1,.45>,.07} pigment{rgb<.40,.35,.28>} finish{diffuse .9}}
// tools on the wall: saws, mallets, a shelf of blocks
#for(i,0,5) union{ box{<-.008,-.36,-.05>,<.008,.02,.05> pigment{rgb<.20,.20,.21>} finish{diffuse .5 specular .8 roughness .03 reflection .12}} superellipsoid{<.5,.5> scale<.018,.08,.06> translate y*.08 pigment{rgb<.28,.15,.06>} finish{diffuse .9 specular .2}} translate<-4.05,1.75,.1+.34*i> } #end
object{Board(.22,.035,2.6,BeamD,BeamL*1.1,.15) translate<-4.0,2.12,1.2>}
#for(i,0,13) union{ superellipsoid{<.6,.4> scale<.05,.085,.05>} torus{.03,.011 rotate x*90 translate y*.10} pigment{granite color_map{[0 rgb<.12,.06,.03>][1 rgb<.33,.19,.09>]} scale .05} finish{diffuse .9 specular .2} scale rr(.7,1.2) rotate y*rr(0,90) translate<-3.99,2.22,.05+.18*i> } #end
// right wall: oars in a rack, coiled ropes, life rings, a sail bag
#for(i,0,4) object{Oar() rotate<0,20*i,0> rotate<0,0,-5> translate<4.02-.02*i,.02,.4+.28*i>} #end
#for(k,0,2) #for(i,0,11) torus{rr(.12,.19),.014 rotate z*90 rotate<rr(-6,6),rr(-6,6),0> scale<1,1.25,1> translate<4.08-.012*i*.7,1.72+rr(-.02,.02),2.2+.62*k+rr(-.012,.012)> texture{pigment{rgb<.42,.32,.17>*rr(.6,1.1)} normal{gradient y 1 scale .012 rotate x*40} finish{diffuse .9}}} #end #end
union{ torus{.27,.07 texture{ radial texture_map{[.5 pigment{rgb<.62,.60,.54>} finish{diffuse .95}][.5 pigment{granite color_map{[0 rgb<.30,.025,.015>][1 rgb<.42,.05,.03>]} scale .05} finish{diffuse .95}]} frequency 4 rotate y*22}} rotate z*90 translate<4.02,2.55,-.6> }
#for(i,0,2) superellipsoid{<.8,.55> scale<.24,.34+.04*i,.26> texture{pigment{granite color_map{[0 rgb<.40,.36,.27>][1 rgb<.56,.51,.41>]} scale .3} normal{wrinkles .8 scale .15} finish{diffuse .9}} translate<3.72-.1*i,.36,-1.6+.56*i> } #end
// a ladder, a barrel, crates
union{ #for(s,0,1) cylinder{<.42*s,0,0>,<.42*s,4.2,0>,.028} #end #for(i,0,11) cylinder{<0,.25+.34*i,0>,<.42,.25+.34*i,0>,.016} #end WoodTex(BeamD,BeamL*1.5,.03,.1) rotate x*14 rotate y*90 translate<3.05,0,3.35> }
#for(i,0,1) union{ cylinder{0,y*.86,.32 texture{pigment{radial color_map{[0 rgb<.04,.025,.015>][.06 rgb<.04,.025,.015>][.07 rgb<.20,.125,.065>][1 rgb<.14,.085,.045>]} frequency 18} finish{diffuse .9}}} #for(j,0,3) torus{.322,.013 translate y*(.09+.225*j) pigment{rgb .06} finish{diffuse .6 specular .5 roughness .04}} #end translate<-3.35+.1*i,0,-1.1-.78*i> } #end
#for(k,0,2) union{ #for(i,0,3) #for(s,0,1) object{Board(.01,.10,.62,FloorD,FloorL,.1) translate<-.22+.44*s,.06+.11*i,0>} object{Board(.44,.10,.012,FloorD,FloorL,.1) translate<0,.06+.11*i,-.31+.62*s>} #end #end rotate y*(12*k-8) translate<2.55+.12*k,.45*k*(k<2?1:0)+(k=2?0:0),-.1-(k=2?1.0:0)> } #end

// ---------------------------------------------------------------- lanterns
#declare Brass=texture{pigment{granite color_map{[0 rgb<.20,.13,.045>][1 rgb<.36,.24,.08>]} scale .03} finish{diffuse .45 specular 1 roughness .015 metallic reflection{.25 metallic} conserve_energy}};
#macro Lantern(P,Pow)
union{ cylinder{<0,-.15,0>,<0,-.115,0>,.10} cone{<0,.15,0>,.10,<0,.22,0>,.04} cylinder{<0,.22,0>,<0,.26,0>,.034} torus{.10,.007 translate y*-.115} torus{.10,.007 translate y*.15}
 #for(i,0,5) cylinder{<.096,-.125,0>,<.096,.15,0>,.0045 rotate y*(60*i+15)} #end torus{.05,.0045 rotate x*90 translate y*.30} texture{Brass} translate P no_radiosity no_shadow }
cylinder{P+y*.34,<P.x,HW,P.z>,.005 pigment{rgb .03}}
#if(Lit) sphere{0,1 scale<.024,.052,.024> translate P pigment{rgb<1,.60,.22>*240} finish{diffuse 0 emission 1} no_shadow no_radiosity}
light_source{P rgb <1,.50,.17>*Pow fade_distance .5 fade_power 2 area_light x*.08,y*.08,3,3 adaptive 1 jitter orient circular} #end
difference{cylinder{P-y*.115,P+y*.145,.088} cylinder{P-y*.12,P+y*.15,.085} pigment{rgbt<.9,.9,.85,.93>} finish{diffuse .15 specular 1 roughness .003 reflection{.02,.4 fresnel on}} interior{ior 1.05} no_shadow no_radiosity}
#end
Lantern(<-2.6,2.35,1.1>,22)
Lantern(<2.2,2.55,-2.0>,16)
Lantern(<.55,2.75,-4.3+2.0>,9)
#end // Room

// ================================================================ OUTSIDE
#if(Part=6)
box{<-DX-1.2,-.5,DZ+.45>,<DX+1.2,5.4,DZ+.46> pigment{rgb 1} finish{diffuse 0 emission 100} no_reflection no_shadow no_radiosity}
#end
#if(View)
sphere{0,9500 hollow no_shadow no_radiosity
 texture{ pigment{ function{ y/9500 } color_map{ [0.0 rgb <.94,.97,1.0>*10.5][0.06 rgb <.80,.90,1.0>*9.5][0.16 rgb<.52,.72,1.0>*8][0.35 rgb <.36,.58,1.0>*7][1 rgb <.36,.58,1.0>*4.5] } } finish{diffuse 0 emission 1} }
 texture{ pigment{ granite turbulence 0.4 octaves 7 omega 0.52 color_map{[0.0 rgbt<24,23,22,1>][0.42 rgbt<25,24.5,24,1>][0.50 rgbt<29,28,27,0.5>][0.58 rgbt<36,34.5,32.5,0.1>][0.72 rgbt<23,22.8,23,0>][1 rgbt<13,13.8,15.5,0>]} scale <0.5,0.24,0.5> translate <0.11,0.16,0.45> scale 9500 } finish{diffuse 0 emission 1} } }
#declare Th1=function(x,y){ min(1,max(0,(0.15+0.85*f_noise3d(x*7+5.3,y*3,7.7)*0.8+0.25*f_noise3d(x*22,y*9,5.1))*min(1,y*4)*(0.45+0.75*abs(x-0.5))))}
#declare H1=object{ HF(Th1,420) scale<1900,58,700> translate<-950,LakeY-1.0,620> };
object{H1 texture{ pigment{granite color_map{[0 rgb<.03,.05,.015>][.5 rgb<.07,.10,.03>][1 rgb<.13,.13,.05>]} scale 60} normal{granite 0.8 scale 20} OutFin(0.8,5)} Haze(.14,<5.5,6.4,7.8>) no_radiosity}
#declare Th3=function(x,y){ min(1,max(0,(0.15+1.0*f_ridged_mf(x*2.7+5.2,y*1.5,8.2,0.9,2.1,6,0.9,2,2)*0.33+0.25*f_noise3d(x*5,y*3,2))*min(1,y*2.5)))}
object{ HF(Th3,600) scale<9000,700,2600> translate<-4500,LakeY-5,3900> texture{pigment{granite color_map{[0 rgb<.10,.10,.09>][1 rgb<.3,.29,.27>]} scale 200} normal{granite 1.2 scale 90} OutFin(.8,5)} Haze(.66,<6.0,7.3,9.2>) no_radiosity }
#declare Sp=array[3]; #for(i,0,2) #declare Sp[i]=Spruce(i+21); #end
#local n=0; #while(n<2000) #local px=rr(-460,460); #local pz=635+pow(rr(0,1),1.7)*380; #local Nn=<0,0,0>; #local hit=trace(H1,<px,900,pz>,-y,Nn);
 #if(vlength(Nn)>0 & hit.y>LakeY+0.3) #local hh=6+15*pow(rr(0,1),1.3); #local g=rr(.6,1.4);
  object{Sp[mod(n,3)] scale<hh*1.05,hh,hh*1.05> rotate y*rr(0,360) translate hit-y*0.6 texture{pigment{rgb<.030+.015*g*g,.052,.02>*g} OutFin(.9,5)} Haze(.11,<5.5,6.4,7.8>) no_radiosity no_shadow} #end #local n=n+1; #end
// slipway with rails, mooring posts, a jetty arm to the right
#declare SlipA=-6.5;
union{ box{<-1.7,-.25,DZ+.4>,<1.7,-.08,DZ+13> texture{pigment{granite color_map{[0 rgb<.20,.19,.17>][1 rgb<.40,.38,.35>]} scale .6} normal{granite .5 scale .15} OutFin(.85,3.4)}}
  #for(s,-1,1,2) box{<s*.72-.04,-.08,DZ+.4>,<s*.72+.04,.02,DZ+13> pigment{rgb<.24,.12,.06>} OutFin(.8,2.6)} #end
  #local Z=DZ+.8; #while(Z<DZ+12) box{<-1.25,-.085,Z>,<1.25,-.02,Z+.16> OutWood(rr(.5,.8))} #local Z=Z+.9; #end rotate x*0 matrix<1,0,0,0,1,0,0,tan(radians(SlipA)),1,0,-tan(radians(SlipA))*(DZ+.4),0> no_radiosity }
union{ #local Z=DZ+2; #while(Z<DZ+26) box{<2.4,-.20,Z>,<3.8,-.14,Z+.17> OutWood(rr(.7,1.2))} #local Z=Z+.185; #end #local Z=DZ+2.4; #while(Z<DZ+26) #for(s,0,1) cylinder{<2.42+1.36*s,LakeY-1,Z>,<2.42+1.36*s,.28+rr(-.1,.12),Z>,.08 OutWood(rr(.6,1))} #end #local Z=Z+3.3; #end no_radiosity }
union{ difference{ sphere{0,1 scale<.72,.6,2.1>} sphere{0,1 scale<.67,.55,2.02>} box{<-3,0,-3>,<3,2,3>} pigment{rgb<.30,.09,.06>} OutFin(.9,4.0) } torus{1,.035 scale<.715,1,2.08> pigment{rgb<.5,.42,.28>} OutFin(.9,4)} box{<-.66,-.12,-.15>,<.66,-.08,.15> OutWood(1)} rotate y*-28 translate<-3.4,LakeY+.38,DZ+15> no_radiosity }
#end
#if(Part=7)
plane{y,LakeY pigment{rgb 1} finish{diffuse 0 emission 60000}}
box{<-1.7,-2.6,DZ+.4>,<1.7,-.08,DZ+13> matrix<1,0,0,0,1,0,0,tan(radians(SlipA)),1,0,-tan(radians(SlipA))*(DZ+.4),0> pigment{rgb 0} finish{diffuse 0 emission 0}}
#end
#if(Part=0|Part=5)
plane{y,LakeY texture{ pigment{rgb<.012,.035,.038>}
  normal{ average normal_map{ [1.2 bumps 0.44 scale <1.1,1,0.55> translate <Frame*0.17,0,Frame*0.11>][1 bumps 0.38 scale <.33,1,.2> translate <-Frame*0.13,0,Frame*0.21>][1 bumps 0.3 scale<6,1,3> translate Frame*0.4] } }
  finish{ diffuse 0.6 emission 4 reflection{0.0,1.0 fresnel on} conserve_energy specular 1.2 roughness 0.004 } } interior{ior 1.33} no_radiosity no_shadow }
#end
#if(Part=1) object{Person(<.07,.11,.20>,<.085,.075,.06>,<.10,.06,.03>,Frame*1.05,<.36,.30,.16>) rotate y*75 translate<2.75,-.14,DZ+11>} #end
#if(Part=3)
union{ object{Sail(<.12,1.15,0>,<.12,9.1,0>,<3.7,1.3,.5>,.55)} object{Sail(<-2.5,.9,.1>,<-.1,7.3,0>,<-.25,1.2,.35>,.35)}
 cylinder{<0,0,0>,<0,9.6,0>,.06 pigment{rgb<.3,.2,.1>} OutFin(.9,3)} cylinder{<0,1.15,0>,<3.75,1.28,.5>,.05 pigment{rgb<.3,.2,.1>} OutFin(.9,3)}
 intersection{ sphere{0,1 scale<3.7,1.0,.95> translate<.4,.25,0>} plane{y,.42} plane{-y,.25} pigment{rgb<.10,.12,.14>} OutFin(.9,3.2) }
 rotate x*(3+2*sin(Frame*1.3)) no_radiosity translate <-16,LakeY+.2,140>}
#end
#if(Part=4)
union{ sphere_sweep{linear_spline 3 <-2.1,3.02,DZ+.5>,.006 <0,2.66,DZ+.5>,.006 <2.1,3.02,DZ+.5>,.006 pigment{rgb<.3,.24,.15>} OutFin(.9,2)}
 #local C=array[4]{<.34,.06,.04>,<.50,.46,.36>,<.07,.15,.20>,<.48,.32,.08>};
 #for(i,0,11) #local b0=-1.9+.345*i; #local yy=2.66+.36*abs(b0)/2.1; #local sw=.10*sin(i*1.3+Frame*1.7)+.06; #local tw=.05*cos(i*2.1+Frame*1.3);
  mesh{ triangle{<b0-.11,yy,DZ+.5>,<b0+.11,yy,DZ+.5>,<b0+tw,yy-.26,DZ+.5+sw>} texture{pigment{rgb C[mod(i,4)]} OutFin(.5,2.6)} } #end no_radiosity }
#end
