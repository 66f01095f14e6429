// SPDX-License-Identifier: GPL-3.0-or-later
// The Marl Quay ferry house, net loft: an invented place, rendered as scene-linear radiance in all directions.
// The picture is equirectangular; its middle looks along +z, to the big window.
// Part chooses what is rendered (render.sh calls it once for each):
//   0 the loft and the view, without anything that moves   3 the sail   6 where the view shows (white)
//   8 how far everything is: 60000 (1 - exp(-metres / 20))
// Frame=n moves what Part shows; random placement stays fixed.
#version 3.7;
#include "functions.inc"
#ifndef(Part) #declare Part=0; #end
#ifndef(Frame) #declare Frame=0; #end
#ifndef(Q) #declare Q=1; #end
#declare Room=(Part=0|Part=6|Part=8);
#declare View=(Part=0|Part=8);
#declare Lit=(Part<6);
#declare R=seed(2741);
#macro rr(a,b) (a+(b-a)*rand(R)) #end
#include "../common.inc"
#if(Part>0) #declare NoRad=1; #end
global_settings{ assumed_gamma 1.0 max_trace_level (Part=8?1:6) adc_bailout 0.0005
#ifndef(NoRad)
  radiosity{ pretrace_start 0.08 pretrace_end (Q>0?0.01:0.02) count (Q>0?140:70) nearest_count 10 error_bound (Q>0?0.5:0.8)
    low_error_factor 0.6 recursion_limit 2 minimum_reuse 0.012 gray_threshold 0 brightness 1 adc_bailout 0.002 always_sample off }
#end
}
#default{ finish{ ambient 0 emission (Part=8?0:0.02) diffuse 1 } }
#if(Part=8) fog{ distance 20 color rgb 60000 } #end
#declare SkyL=9;
#declare SunDir=vnormalize(<0.66,0.62,0.42>);
#declare SunC=<1.0,0.90,0.74>*58;
#declare LakeY=-4.6;
#declare Eye=<-0.25,1.60,-1.9>;
camera{ spherical location Eye right x up y direction z angle 360 180 look_at Eye+z }
#if(Lit) light_source{ SunDir*5000 rgb SunC parallel point_at 0 area_light x*40,y*40,3,3 adaptive 1 jitter circular orient } #end

#declare L1=array[3]{0,3.15,-4.65};
#declare L2=array[5]{2.9,2.95,2.3,-2.9,-2.95};
#declare L3=array[5]{0,.46,0,0,0};
#declare L4=array[5]{5.9,5.85,6.1,5.2,-2.6};
#declare L5=array[3]{-3.3,-3.25,3.2};
#declare L6=array[3]{1.4,2.15,-1.6};
#declare L7=array[3]{0,80,-85};
// the shell: x -HX..HX, eaves HW, ridge Apex, z ZB..ZF; a big window in front, two on the right, one on the left
#declare HX=4.0; #declare HW=3.1; #declare Apex=6.9; #declare ZB=-6.2; #declare ZF=7.0;
#declare WX=1.5; #declare WY0=0.75; #declare WY1=4.1;           // big window, half width and heights
#declare SY0=1.0; #declare SY1=2.45; #declare SW=0.62;          // side windows, half width SW
#declare SideZ=array[3]{2.6,-3.6,4.4}; #declare SideS=array[3]{1,1,-1};
#if(Room & Lit)
#macro WindowLight(P,In,U,V,Area)
light_source{ P rgb <0.66,0.80,1.0>*SkyL*1.25*Area/(2*pi) spotlight point_at P+In radius 0 falloff 89.9 tightness 1
  area_light U*0.9,V*0.9,(Q>0?4:3),(Q>0?4:3) area_illumination on fade_distance 1 fade_power 2 }
#end
WindowLight(<0,(WY0+WY1)/2,ZF>,-z-y*.2,x*2*WX,y*(WY1-WY0),2*WX*(WY1-WY0))
#for(i,0,2) WindowLight(<SideS[i]*HX,(SY0+SY1)/2,SideZ[i]>,-x*SideS[i]-y*.2,z*2*SW,y*(SY1-SY0),2*SW*(SY1-SY0)) #end
#end

#if(Room)
#declare White=texture{pigment{granite color_map{[0 rgb<.62,.61,.57>][1 rgb<.74,.73,.69>]} scale .4} finish{diffuse .95}};
#declare ArchT=texture{pigment{average pigment_map{[2 granite color_map{[0 rgb BeamD][1 rgb BeamL*1.5]} scale<.5,.5,.06>][1 bozo color_map{[0 rgb BeamD*1.2][1 rgb BeamL*1.6]} scale<.25,.25,.015>]}} normal{bozo .2 scale<.2,.2,.02>} finish{diffuse .9 specular .1 roughness .05}};
difference{ box{<-HX-.25,-.9,ZB-.3>,<HX+.25,7.6,ZF+.25>}
  prism{ linear_sweep linear_spline ZB,ZF+.04,6 <-HX,-.8>,<HX,-.8>,<HX,HW>,<0,Apex+.1>,<-HX,HW>,<-HX,-.8> rotate -90*x scale<1,1,-1> }
  box{<-WX,WY0,ZF-1>,<WX,WY1,ZF+1>}
  #for(i,0,2) box{<min(SideS[i]*(HX-.5),SideS[i]*(HX+1)),SY0,SideZ[i]-SW>,<max(SideS[i]*(HX-.5),SideS[i]*(HX+1)),SY1,SideZ[i]+SW>} #end
  texture{Black}}
// floor
#local X=-HX; #while(X<HX) #local w=rr(0.17,0.24); #local z0=ZB-rr(0,1.5);
  #while(z0<ZF) #local l=rr(2.4,4.2); object{Board(w-0.006,0.05,min(l,ZF-z0)-0.005,FloorD*1.15,FloorL*1.05,0.2) translate <X+w/2,-0.025+rr(-0.002,0.002),z0+min(l,ZF-z0)/2>} #local z0=z0+l; #end
  #local X=X+w; #end
box{<-HX,-.3,ZB>,<HX,-.055,ZF> texture{Black}}
// side walls, left out where a window is
#for(s,-1,1,2) #local Y=0; #while(Y<HW) #local h=0.207; #local z0=ZB;
  #while(z0<ZF) #local l=0.5; #local mid=z0+l/2; #local gap=0; #for(i,0,2) #if(SideS[i]=s & abs(mid-SideZ[i])<SW & Y+h>SY0+.03 & Y<SY1-.03) #local gap=1; #end #end
   #if(gap=0) object{Board(h-.005,.035,l+.001,WallD*1.1,WallL*1.15,.1) rotate z*90 translate<s*(HX-.02),Y+h/2,mid>} #end #local z0=z0+l; #end #local Y=Y+h; #end #end
// end walls: in front around the window, at the back whole with a door
#local X=-HX; #while(X<HX) #local w=0.2; #local top=HW+(Apex-HW)*(1-abs(X+w/2)/HX);
  #if(X+w<-WX+.02 | X>WX-.02) object{Board(w-.004,.035,top,WallD*1.1,WallL*1.15,.1) rotate x*90 translate<X+w/2,top/2,ZF-.01>}
  #else object{Board(w-.004,.035,WY0,WallD*1.1,WallL*1.15,.1) rotate x*90 translate<X+w/2,WY0/2,ZF-.01>} object{Board(w-.004,.035,top-WY1,WallD*1.1,WallL*1.15,.1) rotate x*90 translate<X+w/2,(top+WY1)/2,ZF-.01>} #end
  object{Board(w-.004,.035,top,WallD*1.1,WallL*1.15,.1) rotate x*90 translate<X+w/2,top/2,ZB+.02>} #local X=X+w; #end
union{ #for(i,0,4) object{Board(.19,.05,2.05,<.05,.085,.09>,<.11,.17,.175>,.15) rotate x*90 translate<-.42+.2*i,1.02,0>} #end #for(i,0,1) object{Board(.15,.04,1.02,<.05,.08,.085>,<.10,.155,.165>,.15) rotate y*90 translate<-.02,.45+1.2*i,.045>} #end
  sphere{<.36,1.0,.07>,.03 pigment{rgb<.3,.2,.07>} finish{diffuse .5 specular 1 roughness .02}} translate<1.1,0,ZB+.07> }
// roof boards, rafters, ties
#local Ang=degrees(atan2(Apex-HW,HX)); #local Len=sqrt(HX*HX+(Apex-HW)*(Apex-HW));
#for(s,-1,1,2) #local D=0; #while(D<Len) #local z0=ZB-rr(0,2); #while(z0<ZF) #local l=rr(3.2,5);
   object{Board(.215,.035,min(l,ZF-z0)-.004,WallD*1.2,WallL*1.25,.1) rotate z*(-s*Ang) translate<s*D*cos(radians(Ang)),Apex-D*sin(radians(Ang)),z0+min(l,ZF-z0)/2>} #local z0=z0+l; #end #local D=D+.22; #end
  #local Z=ZB+.5; #while(Z<ZF) object{Board(.10,.15,Len,BeamD,BeamL,.1) rotate y*90 rotate z*(-s*Ang) translate<s*HX/2,(Apex+HW)/2-.13,Z>} #local Z=Z+1.2; #end #end
object{Board(.16,.22,ZF-ZB,BeamD,BeamL,.12) translate<0,Apex-.22,(ZF+ZB)/2>}
// the great arches
#macro Arch(Zc) difference{ cylinder{-z*.15,z*.15,1 scale<HX-.08,Apex-.7,1>} cylinder{-z,z,1 scale<HX-.45,Apex-1.12,1>} box{<-5,-8,-1>,<5,0,1>} texture{ArchT} translate z*Zc }
  #for(s,-1,1,2) cylinder{<s*(HX-.27),.5,Zc-.17>,<s*(HX-.27),.5,Zc+.17>,.03 pigment{rgb<.05,.05,.05>} finish{diffuse .6 specular .5}} box{<s*(HX-.5),0,Zc-.2>,<s*(HX-.03),.22,Zc+.2> pigment{granite color_map{[0 rgb<.16,.155,.15>][1 rgb<.32,.31,.29>]} scale .2} finish{diffuse .9}} #end #end
Arch(.35) Arch(3.5) Arch(-4.3)
#for(i,0,2) object{Board(.16,.2,2*HX,BeamD,BeamL,.12) rotate y*90 translate<0,HW+.05,.35+L1[i]>} #end
// white trim and bars of the windows, sills
#macro Trim(Hw,Y0,Y1,Cols,Rows)
 union{ box{<-Hw-.11,Y0-.11,-.05>,<-Hw,Y1+.11,.03>} box{<Hw,Y0-.11,-.05>,<Hw+.11,Y1+.11,.03>} box{<-Hw,Y1,-.05>,<Hw,Y1+.11,.03>} box{<-Hw-.14,Y0-.13,-.16>,<Hw+.14,Y0-.03,.03>}
  #for(i,1,Cols-1) box{<-Hw+2*Hw*i/Cols-.022,Y0,-.02>,<-Hw+2*Hw*i/Cols+.022,Y1,.03>} #end #for(i,1,Rows-1) box{<-Hw,Y0+(Y1-Y0)*i/Rows-.02,-.02>,<Hw,Y0+(Y1-Y0)*i/Rows+.02,.03>} #end texture{White} }
#end
object{Trim(WX,WY0,WY1,4,5) translate z*(ZF-.05)}
#for(i,0,2) object{Trim(SW,SY0,SY1,2,3) rotate y*(90*SideS[i]) translate<SideS[i]*(HX-.06),0,SideZ[i]>} #end
// nets
#macro NetP(A,B,C,D,Gu,Gv,Sag) (A*(1-Gu)*(1-Gv)+B*Gu*(1-Gv)+C*(1-Gu)*Gv+D*Gu*Gv-y*Sag*4*Gu*(1-Gu)*(1-.4*Gv)+z*.06*sin(Gu*17+Gv*5)+x*.05*sin(Gv*13)) #end
#macro Net(A,B,C,D,Sag,NU,NV,Col) union{ #for(i,0,NU) #for(j,0,NV) #local P=NetP(A,B,C,D,i/NU,j/NV,Sag);
   #if(i<NU & j<NV) #local Qn=NetP(A,B,C,D,(i+1)/NU,(j+1)/NV,Sag); cylinder{P,Qn,.0042} #end #if(i>0 & j<NV) #local Qn=NetP(A,B,C,D,(i-1)/NU,(j+1)/NV,Sag); cylinder{P,Qn,.0042} #end
   #if(j=0 & i<NU) #local Qn=NetP(A,B,C,D,(i+1)/NU,0,Sag); cylinder{P,Qn,.011} #if(mod(i,4)=0) sphere{P,.05 scale 1 pigment{rgb<.40,.24,.11>*rr(.7,1.1)}} #end #end #end #end pigment{rgb Col} finish{diffuse .9} } #end
Net(<-3.7,3.0,3.5>,<-1.7,3.05,3.5>,<-3.6,.5,3.45>,<-1.9,.65,3.55>,.3,22,26,<.10,.17,.15>)
Net(<2.0,3.0,.5>,<3.5,2.95,3.3>,<2.3,.45,.6>,<3.6,.5,3.2>,.25,26,24,<.30,.20,.10>)
Net(<-3.6,3.05,-4.2>,<-3.6,3.0,-1.2>,<-3.5,.9,-4.0>,<-3.55,.8,-1.3>,.35,28,22,<.18,.12,.08>)
// floats hung from the arches, glass and cork
#declare FC=array[4]{<.07,.17,.13>,<.34,.07,.04>,<.45,.39,.26>,<.06,.11,.19>};
#for(i,0,15) #local fx=-3.1+6.2*rand(R); #local fz=.35+(mod(i,2)=0?0:3.15); #local fy=2.3+rr(0,.5); #local fr=rr(.07,.13); union{ sphere{0,fr pigment{granite color_map{[0 rgb FC[mod(i,4)]*.7][1 rgb FC[mod(i,4)]*1.2]} scale .1} finish{diffuse .8 specular .6 roughness .02 reflection{0,.25 fresnel on} conserve_energy} interior{ior 1.45}} cylinder{0,y*(HW-fy),.006 pigment{rgb<.3,.23,.14>}} translate<fx,fy,fz> } #end
// the mending bench near the camera: needle, twine, a mug, a small net; things within arm's length
union{ #for(i,0,3) object{Board(.15,.04,1.5,FurnD,FurnL,.3) translate<-.225+.15*i,.90,0>} #end #for(s,-1,1,2) #for(e,-1,1,2) object{Board(.07,.07,.88,BeamD,BeamL,.1) rotate x*90 translate<s*.22,.44,e*.62>} #end #end
 #for(k,0,2) union{ cylinder{0,y*.12,.045 pigment{gradient y color_map{[0 rgb FC[k]*1.6][1 rgb FC[k]*1.1]} scale .01 turbulence .1} finish{diffuse .9}} cylinder{-y*.01,0,.06 pigment{rgb FurnL}} cylinder{y*.12,y*.13,.06 pigment{rgb FurnL}} translate<-.1+.13*k,.93,-.42+.05*k> } #end
 difference{ cylinder{0,y*.10,.043} cylinder{y*.008,y*.11,.039} pigment{rgb<.58,.57,.52>} finish{diffuse .9 specular .4 roughness .02} translate<.12,.92,.1> }
 #for(i,0,4) object{ superellipsoid{<.5,.3> scale<.012,.005,.10>} pigment{rgb<.42,.30,.16>} finish{diffuse .9 specular .3} rotate y*(20*i-30) translate<-.12+.05*i,.925,.35+.03*i> } #end
 #for(i,0,20) torus{.11-.001*i,.007 scale<1,1,1> rotate<rr(-5,5),0,rr(-5,5)> translate<.05,.93+.006*i,-.12> pigment{rgb<.40,.31,.17>*rr(.7,1.1)} finish{diffuse .9}} #end
 rotate y*62 translate<.72,0,-.75> }
// far: crates, barrels, oars, coils, a sail bag, a ladder
#for(k,0,4) union{ #for(i,0,3) #for(s,0,1) object{Board(.014,.10,.70,FloorD,FloorL,.1) translate<-.25+.5*s,.06+.11*i,0>} object{Board(.5,.10,.014,FloorD,FloorL,.1) translate<0,.06+.11*i,-.35+.7*s>} #end #end rotate y*rr(-15,15) translate<L2[k],L3[k],L4[k]> } #end
#for(i,0,2) union{ cylinder{0,y*.86,.32 texture{pigment{radial color_map{[0 rgb<.04,.025,.015>][.06 rgb<.04,.025,.015>][.07 rgb<.22,.135,.07>][1 rgb<.15,.09,.05>]} frequency 18} finish{diffuse .9}}} #for(j,0,3) torus{.322,.013 translate y*(.09+.225*j) pigment{rgb .06} finish{diffuse .6 specular .5 roughness .04}} #end translate<L5[i],0,L6[i]> } #end
#for(i,0,4) object{Oar() rotate<0,20*i,0> rotate<0,0,-7> translate<3.82-.03*i,.02,-5.6+.3*i>} #end
#for(k,0,2) #for(i,0,11) torus{rr(.12,.2),.014 rotate x*90 rotate<rr(-6,6),rr(-6,6),0> scale<1,1.25,1> translate<-2.6+.75*k,1.72+rr(-.02,.02),ZB+.12+.012*i*.7> texture{pigment{rgb<.42,.32,.17>*rr(.6,1.1)} finish{diffuse .9}}} #end #end
#for(i,0,2) superellipsoid{<.8,.55> scale<.26,.36+.04*i,.28> texture{pigment{granite color_map{[0 rgb<.42,.38,.29>][1 rgb<.60,.55,.45>]} scale .3} normal{wrinkles .8 scale .15} finish{diffuse .9}} translate<-.6+.62*i,.38,6.2-.12*i> } #end
union{ #for(s,0,1) cylinder{<.42*s,0,0>,<.42*s,4.6,0>,.028} #end #for(i,0,12) cylinder{<0,.25+.34*i,0>,<.42,.25+.34*i,0>,.016} #end texture{ArchT} rotate x*16 translate<-1.9,0,-6.0> }
// hanging lanterns
#declare Brass=texture{pigment{granite color_map{[0 rgb<.20,.13,.045>][1 rgb<.36,.24,.08>]} scale .03} finish{diffuse .45 specular 1 roughness .015 metallic}};
#macro Lantern(P,Pow)
union{ cylinder{<0,-.15,0>,<0,-.115,0>,.10} cone{<0,.15,0>,.10,<0,.22,0>,.04} torus{.10,.007 translate y*-.115} torus{.10,.007 translate y*.15} #for(i,0,5) cylinder{<.096,-.125,0>,<.096,.15,0>,.0045 rotate y*(60*i+15)} #end torus{.05,.0045 rotate x*90 translate y*.27} texture{Brass} translate P no_radiosity no_shadow }
cylinder{P+y*.3,<P.x,HW+.05,P.z>,.005 pigment{rgb .03}}
#if(Lit) sphere{0,1 scale<.024,.052,.024> translate P pigment{rgb<1,.60,.22>*240} finish{diffuse 0 emission 1} no_shadow no_radiosity}
light_source{P rgb <1,.50,.17>*Pow fade_distance .5 fade_power 2 area_light x*.08,y*.08,2,2 adaptive 1 jitter orient circular} #end
#end
Lantern(<-1.5,2.45,.35>,16)
Lantern(<1.7,2.5,-4.3>,12)
#end // Room

// ================================================================ OUTSIDE
#if(Part=6)
box{<-WX-1.4,-.9,ZF+.35>,<WX+1.4,6.2,ZF+.36> pigment{rgb 1} finish{diffuse 0 emission 100} no_shadow}
#for(i,0,2) box{<SideS[i]*(HX+.35)-.01,0,SideZ[i]-2>,<SideS[i]*(HX+.35)+.01,4,SideZ[i]+2> pigment{rgb 1} finish{diffuse 0 emission 100} no_shadow} #end
#end
#if(View)
#if(Part=0)
sphere{0,9500 hollow no_shadow no_radiosity
 texture{ pigment{ function{ y/9500 } color_map{ [0.0 rgb <.94,.97,1.0>*10.5][0.06 rgb <.80,.90,1.0>*9.5][0.16 rgb<.52,.72,1.0>*8][0.35 rgb <.36,.58,1.0>*7][1 rgb <.36,.58,1.0>*4.5] } } finish{diffuse 0 emission 1} }
 texture{ pigment{ granite turbulence 0.4 octaves 7 omega 0.52 color_map{[0.0 rgbt<24,23,22,1>][0.42 rgbt<25,24.5,24,1>][0.50 rgbt<29,28,27,0.5>][0.58 rgbt<36,34.5,32.5,0.1>][0.72 rgbt<23,22.8,23,0>][1 rgbt<13,13.8,15.5,0>]} scale <0.5,0.24,0.5> translate <0.11,0.16,0.45> scale 9500 } finish{diffuse 0 emission 1} } }
#end
#declare Th1=function(x,y){ min(1,max(0,(0.15+0.85*f_noise3d(x*7+5.3,y*3,7.7)*0.8+0.25*f_noise3d(x*22,y*9,5.1))*min(1,y*4)*(0.45+0.75*abs(x-0.5))))}
#declare H1=object{ HF(Th1,420) scale<1900,62,700> translate<-950,LakeY-1.0,560> };
#macro Shore() object{H1 texture{ pigment{granite color_map{[0 rgb<.03,.05,.015>][.5 rgb<.07,.10,.03>][1 rgb<.13,.13,.05>]} scale 60} normal{granite 0.8 scale 20} OutFin(0.8,(Part=8?0:5))} #if(Part=0) Haze(.14,<5.5,6.4,7.8>) #end no_radiosity} #end
Shore() object{Shore() rotate y*80} object{Shore() rotate -y*85}
#declare Sp=array[3]; #for(i,0,2) #declare Sp[i]=Spruce(i+21); #end
#local n=0; #while(n<1600) #local px=rr(-460,460); #local pz=575+pow(rr(0,1),1.7)*380; #local Nn=<0,0,0>; #local hit=trace(H1,<px,900,pz>,-y,Nn);
 #if(vlength(Nn)>0 & hit.y>LakeY+0.3) #local hh=7+15*pow(rr(0,1),1.3); #local g=rr(.6,1.4);
  object{Sp[mod(n,3)] scale<hh*1.05,hh,hh*1.05> rotate y*rr(0,360) translate hit-y*0.6 rotate y*L7[mod(n,3)] texture{pigment{rgb<.030+.015*g*g,.052,.02>*g} OutFin(.9,(Part=8?0:5))} #if(Part=0) Haze(.11,<5.5,6.4,7.8>) #end no_radiosity no_shadow} #end #local n=n+1; #end
// a jetty with posts, seen from above
union{ #local Z=ZF+3; #while(Z<ZF+24) box{<.4,LakeY+.62,Z>,<1.9,LakeY+.68,Z+.17> OutWood((Part=8?0:rr(.7,1.2)))} #local Z=Z+.2; #end #local Z=ZF+3.2; #while(Z<ZF+24) #for(s,0,1) cylinder{<.42+1.46*s,LakeY-1,Z>,<.42+1.46*s,LakeY+1.3,Z>,.09 OutWood((Part=8?0:.8))} #end #local Z=Z+3; #end no_radiosity }
plane{y,LakeY texture{ pigment{rgb<.012,.035,.038>}
  normal{ average normal_map{ [1.2 bumps 0.44 scale <1.1,1,0.55>][1 bumps 0.38 scale <.33,1,.2>][1 bumps 0.3 scale<6,1,3>] } }
  finish{ diffuse 0.6 emission (Part=8?0:4) #if(Part=0) reflection{0.0,1.0 fresnel on} conserve_energy specular 1.2 roughness 0.004 #end } } interior{ior 1.33} no_radiosity no_shadow }
#end
#if(Part=3)
union{ object{Sail(<.12,1.15,0>,<.12,9.1,0>,<3.7,1.3,.5>,.55)} object{Sail(<-2.5,.9,.1>,<-.1,7.3,0>,<-.25,1.2,.35>,.35)}
 cylinder{<0,0,0>,<0,9.6,0>,.06 pigment{rgb<.3,.2,.1>} OutFin(.9,3)} cylinder{<0,1.15,0>,<3.75,1.28,.5>,.05 pigment{rgb<.3,.2,.1>} OutFin(.9,3)}
 intersection{ sphere{0,1 scale<3.7,1.0,.95> translate<.4,.25,0>} plane{y,.42} plane{-y,.25} pigment{rgb<.10,.12,.14>} OutFin(.9,3.2) }
 rotate x*(3+2*sin(Frame*1.3)) no_radiosity translate <-9,LakeY+.2,95>}
#end
